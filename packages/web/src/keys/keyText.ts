// Keys as they are read, and as they are pressed.
const isMac = typeof navigator !== 'undefined' && /mac/i.test(navigator.userAgent);

const READ: Record<string, string> = {
  mod: isMac ? '⌘' : 'Ctrl',
  shift: 'Shift',
  alt: 'Alt',
  left: '←',
  right: '→',
  up: '↑',
  down: '↓',
  comma: ',',
  period: '.',
  slash: '/',
  escape: 'Esc',
  space: 'Space',
  pageup: 'Page up',
  pagedown: 'Page down',
};
const capital = (key: string): string => key[0]!.toUpperCase() + key.slice(1);

/** `mod+shift+z` as it is read: Ctrl Shift Z. The question mark is what it is called on every keyboard. */
export const keyText = (key: string): string =>
  key === 'shift+slash'
    ? '?'
    : key
        .split('+')
        .map((part) => READ[part] ?? capital(part))
        .join(' ');
export const keysText = (keys: readonly string[]): string => keys.map(keyText).join(' or ');

const MODIFIERS = new Set(['control', 'shift', 'alt', 'meta', 'altgraph']);
/** The pressed key as the table writes it; undefined for one that only modifies others. */
export function pressedKey(
  e: Pick<KeyboardEvent, 'code' | 'key' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>,
): string | undefined {
  if (MODIFIERS.has(e.key.toLowerCase())) return undefined;
  const own = e.code.toLowerCase().replace(/^(key|digit|numpad|arrow)/, '');
  const isMod = e.ctrlKey || e.metaKey;
  return [isMod && 'mod', e.altKey && 'alt', e.shiftKey && 'shift', own].filter(Boolean).join('+');
}
