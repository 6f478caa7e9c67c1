import { BLOCK, blockOf, PLANES } from '../kernels/blocks.ts';
import { kernels, type Kernels } from '../kernels/module.ts';

/** The pixels whose α is above `least` and below `most`, both floats from 0 on; they ascend. */
export function pixelsBetween(alpha: Float32Array, least: number, most: number): Uint32Array {
  const own = kernels();
  return own ? betweenByKernel(own, alpha, least, most) : betweenBySamples(alpha, least, most);
}

export function betweenBySamples(alpha: Float32Array, least: number, most: number): Uint32Array {
  let count = 0;
  for (let i = 0; i < alpha.length; i++) if (alpha[i]! > least && alpha[i]! < most) count++;
  const found = new Uint32Array(count);
  for (let i = 0, n = 0; n < count; i++) if (alpha[i]! > least && alpha[i]! < most) found[n++] = i;
  return found;
}

const [SAMPLES_AT, FOUND_AT] = [blockOf(0), blockOf(1)];

/** Four at once, block by block: most blocks hold none. */
function betweenByKernel(own: Kernels, alpha: Float32Array, least: number, most: number): Uint32Array {
  const memory = own.samples(blockOf(PLANES));
  let found = new Uint32Array(BLOCK);
  let count = 0;
  for (let start = 0; start < alpha.length; start += BLOCK) {
    const samples = alpha.subarray(start, start + BLOCK);
    const rounded = (samples.length + 3) & ~3;
    memory.set(samples, SAMPLES_AT / 4);
    memory.fill(0, SAMPLES_AT / 4 + samples.length, SAMPLES_AT / 4 + rounded);
    const here = own.between(rounded, SAMPLES_AT, least, most, start, FOUND_AT);
    if (count + here > found.length) {
      const more = new Uint32Array(2 * (count + here));
      more.set(found);
      found = more;
    }
    found.set(new Uint32Array(memory.buffer, FOUND_AT, here), count);
    count += here;
  }
  return found.slice(0, count);
}
