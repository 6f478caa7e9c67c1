import { BLOCK, blockOf, bytesOf, PLANES } from '../kernels/blocks.ts';
import { kernels } from '../kernels/module.ts';

/** Shares of R′, G′ and B′ in luma (ITU-R BT.709). */
const SHARES = [0.2126, 0.7152, 0.0722] as const;

/** Encoded luma of a picture, 0..1, of codes up to `maxCode`. */
export function lumaOfCodes<P extends Uint8Array | Uint16Array | Float32Array>(
  r: P,
  g: P,
  b: P,
  maxCode: number,
): Float32Array {
  const own = kernels();
  if (!own || r instanceof Float32Array) return lumaBySamples(r, g, b, maxCode);
  const out = new Float32Array(r.length);
  const memory = own.samples(blockOf(PLANES));
  const bytes = new Uint8Array(memory.buffer);
  const weights = own.floats(weightsOf(maxCode));
  const [R, G, B, LUMA] = [blockOf(0), blockOf(1), blockOf(2), blockOf(3)];
  const ofCodes = r instanceof Uint8Array ? own.luma8 : own.luma16;
  for (let start = 0; start < out.length; start += BLOCK) {
    const end = Math.min(start + BLOCK, out.length);
    bytes.set(bytesOf(r, start, end), R);
    bytes.set(bytesOf(g, start, end), G);
    bytes.set(bytesOf(b, start, end), B);
    ofCodes((end - start + 3) & ~3, R, G, B, weights, LUMA);
    out.set(memory.subarray(LUMA / 4, LUMA / 4 + end - start), start);
  }
  return out;
}
const weightsOf = (maxCode: number) => SHARES.map((share) => share / maxCode);
export function lumaBySamples(
  r: ArrayLike<number>,
  g: ArrayLike<number>,
  b: ArrayLike<number>,
  maxCode: number,
): Float32Array {
  const f = Math.fround;
  const [x, y, z] = Float32Array.from(weightsOf(maxCode)) as unknown as [number, number, number];
  const out = new Float32Array(r.length);
  for (let i = 0; i < out.length; i++) out[i] = f(f(r[i]! * x) + f(g[i]! * y)) + f(b[i]! * z);
  return out;
}
