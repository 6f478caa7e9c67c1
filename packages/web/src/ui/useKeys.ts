import { useHotkeys, type HotkeyCallback, type Options } from 'react-hotkeys-hook';

/**
 * Fields in which letters are text. Switches, radio buttons and sliders are inputs too, but keys pressed on them are
 * meant for the stage.
 */
const takesText = (target: EventTarget | null): boolean => {
  if (!(target instanceof HTMLElement)) return false;
  if (target.isContentEditable || target.tagName === 'TEXTAREA' || target.tagName === 'SELECT') return true;
  return target instanceof HTMLInputElement && !['radio', 'checkbox', 'range', 'button'].includes(target.type);
};

/** A keyboard shortcut that works wherever the focus is, but for fields being typed in. */
export const useKeys = (
  keys: string,
  callback: HotkeyCallback,
  deps: readonly unknown[] = [],
  options: Options = {},
): void =>
  void useHotkeys(
    keys,
    callback,
    { ...options, enableOnFormTags: true, ignoreEventWhen: (e) => takesText(e.target) },
    deps,
  );
