// Planes through a kernel, block by block: a block of every plane stays in the processor's nearer cache.
import { kernels, SAMPLES, type Kernels } from './module.ts';

/** Samples of a block, and planes there is room for. */
export const BLOCK = 4096;
export const PLANES = 8;
/** Where a block of the plane of this number lies in the kernels' memory, bytes. */
export const blockOf = (plane: number): number => SAMPLES + 4 * BLOCK * plane;

/** Part of a plane, as bytes. */
export function bytesOf(plane: Uint8Array | Uint16Array | Float32Array, start: number, end: number): Uint8Array {
  const part = plane.subarray(start, end);
  return new Uint8Array(part.buffer, part.byteOffset, part.byteLength);
}

/**
 * Takes planes of one length through a kernel. `read` become planes 0, 1, … of its memory; `written` says which of
 * them is copied where after each block; `run` is told the samples of a block, rounded up to four. False where there
 * are no kernels: nothing has been done then.
 */
export function byBlocks(
  read: readonly Float32Array[],
  written: readonly (readonly [plane: number, to: Float32Array])[],
  run: (kernels: Kernels, n: number) => void,
): boolean {
  const own = kernels();
  if (!own) return false;
  const memory = own.samples(blockOf(PLANES));
  const { length } = read[0]!;
  for (let start = 0; start < length; start += BLOCK) {
    const end = Math.min(start + BLOCK, length);
    for (let k = 0; k < read.length; k++) memory.set(read[k]!.subarray(start, end), blockOf(k) / 4);
    run(own, (end - start + 3) & ~3);
    for (const [plane, to] of written) {
      const from = blockOf(plane) / 4;
      to.set(memory.subarray(from, from + end - start), start);
    }
  }
  return true;
}
