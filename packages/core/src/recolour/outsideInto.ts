import type { LinearPlanes } from '../colour/planes.ts';
import { outsideKernelOf, type OutsideProgram } from './finerProgram.ts';

/** How much of each pixel no matte selects: 1 − the largest α. */
export function outsideOf(mattes: readonly Float32Array[], length: number): Float32Array {
  const out = new Float32Array(length).fill(1);
  for (const matte of mattes) for (let i = 0; i < length; i++) out[i] = Math.min(out[i]!, 1 - matte[i]!);
  return out;
}

/** Corrects a picture outside, in place; where `outside` is 0 nothing is read or written. */
export function outsideInto(
  { r, g, b }: LinearPlanes,
  outside: Float32Array,
  program: OutsideProgram,
  strength: number,
): void {
  const kernel = outsideKernelOf(program);
  const next = new Float64Array(3);
  for (let i = 0; i < outside.length; i++) {
    const weight = outside[i]! * strength;
    if (weight === 0) continue;
    const own = [r[i]!, g[i]!, b[i]!] as const;
    next.set(own);
    kernel(next);
    r[i] = own[0] + (next[0]! - own[0]) * weight;
    g[i] = own[1] + (next[1]! - own[1]) * weight;
    b[i] = own[2] + (next[2]! - own[2]) * weight;
  }
}
