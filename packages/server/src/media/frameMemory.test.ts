import { expect, it } from 'vitest';
import { FrameMemory } from './frameMemory.ts';

it('takes again what was given back, of its own length alone, and never one twice', () => {
  const memory = new FrameMemory();
  const [a, b] = [memory.take(8), memory.take(8)];
  expect(a).not.toBe(b);
  memory.giveBack(a);
  expect(memory.take(16).byteLength).toBe(16);
  expect(memory.take(8)).toBe(a);
  expect(memory.take(8)).not.toBe(a);
});
it('leaves alone what is not shared: it may have moved to a thread', () => {
  const memory = new FrameMemory();
  memory.giveBack(new ArrayBuffer(8));
  expect(memory.take(8)).toBeInstanceOf(SharedArrayBuffer);
});
