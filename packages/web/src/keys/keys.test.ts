import { describe, expect, it } from 'vitest';
import { commandsNow, there } from './commandsNow.ts';
import { keysText, keyText, pressedKey } from './keyText.ts';
import { changedKeysFrom, COMMAND_IDS, holderOf, isOfTheBrowser, keysOf, whyNotKey } from './keyTable.ts';

describe('the table of keys', () => {
  const all = COMMAND_IDS.flatMap((id) => keysOf(id, {}).map((key) => [key, id] as const));
  it('gives every key to one command', () => {
    const keys = all.map(([key]) => key);
    expect(keys.filter((key, i) => keys.indexOf(key) !== i)).toEqual([]);
  });
  it('takes none that a browser has for itself', () => expect(all.filter(([key]) => isOfTheBrowser(key))).toEqual([]));
  it('keeps views on 1 to 6, and pieces on the same keys with Shift', () => {
    expect(holderOf('1', {})).toBe('viewResult');
    expect(holderOf('6', {})).toBe('viewDifference');
    expect([holderOf('shift+1', {}), holderOf('shift+9', {})]).toEqual(['piece1', 'piece9']);
  });
  it('refuses a key that another command has, or had given to it, and says which', () => {
    expect(whyNotKey('fit', 'q', {})).toMatch('Source while held');
    expect(whyNotKey('fit', 'f', {})).toBeUndefined();
    expect(whyNotKey('wipe', 'z', { fit: ['z'] })).toMatch('Fit the picture');
    // the key that was given up is free
    expect(whyNotKey('wipe', 'f', { fit: ['z'] })).toBeUndefined();
    expect(whyNotKey('wipe', 'mod+t', {})).toMatch('browser');
  });
  it.each([null, 'not json', 'null', '[]', '{"fit":"z"}', '{"fit":[7]}', '{"fit":["q"]}', '{"unknown":["z"]}'])(
    'is as at first where what was kept is of no use: %s',
    (text) => expect(changedKeysFrom(text)).toEqual({}),
  );
  it('keeps of two changes that clash one, and both of two that change places', () => {
    expect(changedKeysFrom('{"fit":["z"],"wipe":["z"]}')).toEqual({ fit: ['z'] });
    expect(changedKeysFrom('{"fit":["w"],"wipe":["f"]}')).toEqual({ fit: ['w'], wipe: ['f'] });
  });
});

describe('a key', () => {
  const press = (code: string, key: string, more: Partial<KeyboardEvent> = {}) =>
    pressedKey({ code, key, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...more });
  it('is written as in the table when it is pressed', () => {
    expect(press('KeyZ', 'Z', { ctrlKey: true, shiftKey: true })).toBe('mod+shift+z');
    expect(press('Digit3', '#', { shiftKey: true })).toBe('shift+3');
    expect(press('ArrowLeft', 'ArrowLeft', { altKey: true })).toBe('alt+left');
    expect(press('Comma', ',')).toBe('comma');
    expect(press('ShiftLeft', 'Shift', { shiftKey: true })).toBeUndefined();
  });
  it('is read as it stands on a keyboard', () => {
    expect(keyText('mod+shift+z')).toBe('Ctrl Shift Z');
    expect([keyText('shift+slash'), keyText('left'), keyText('comma')]).toEqual(['?', '←', ',']);
    expect(keysText(['delete', 'backspace'])).toBe('Delete or Backspace');
  });
});

describe('commands', () => {
  it('are there while a component is, in the table’s order and under its name', () => {
    const [late, early] = [
      there(() => ({ wipe: { run: () => undefined } })),
      there(() => ({ undo: { run: () => undefined, name: 'Undo: Hue' } })),
    ];
    expect(commandsNow().map((c) => [c.id, c.name])).toEqual([
      ['undo', 'Undo: Hue'],
      ['wipe', 'Wipe'],
    ]);
    late();
    early();
    expect(commandsNow()).toEqual([]);
  });
  it('that several places have are given where they can be', () => {
    const ran: string[] = [];
    const gone = [
      there(() => ({ removeChosen: { run: () => ran.push('shape'), cannot: 'no shape' } })),
      there(() => ({ removeChosen: { run: () => ran.push('keyframes') } })),
    ];
    commandsNow().forEach((c) => c.run());
    gone.forEach((end) => end());
    expect(ran).toEqual(['keyframes']);
  });
});
