import { expect, it } from 'vitest';
import { KeyPointer, type KeyPress } from './keyPointer.ts';

const VIEW = { width: 200, height: 100 };
const press = (pointer: KeyPointer, key: string, more: Partial<KeyPress> = {}) =>
  pointer.press({ key, shiftKey: false, altKey: false, ...more }, VIEW);

it('begins in the middle, and goes 8 pixels a press, 40 with Shift, 1 with Alt', () => {
  const pointer = new KeyPointer();
  expect(press(pointer, 'ArrowRight')).toBe('moved');
  expect(pointer.at).toEqual([108, 50]);
  press(pointer, 'ArrowLeft', { shiftKey: true });
  press(pointer, 'ArrowUp', { altKey: true });
  expect(pointer.at).toEqual([68, 49]);
});
it('does not leave the view', () => {
  const pointer = new KeyPointer();
  for (let i = 0; i < 5; i++) press(pointer, 'ArrowDown', { shiftKey: true });
  expect(pointer.at).toEqual([100, 100]);
});
it('presses and lets go with Space in turn, and forgets a press that was taken over', () => {
  const pointer = new KeyPointer();
  expect([press(pointer, ' '), press(pointer, ' '), press(pointer, ' ')]).toEqual(['pressed', 'let go', 'pressed']);
  pointer.leave();
  expect(pointer.at).toBeUndefined();
  expect(press(pointer, ' ')).toBe('pressed');
});
it('takes no other key', () => {
  const pointer = new KeyPointer();
  expect(press(pointer, 'a')).toBeUndefined();
  expect(pointer.at).toBeUndefined();
});
