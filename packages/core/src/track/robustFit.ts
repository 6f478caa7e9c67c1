import { seededRandom } from './random.ts';
import type { Homography } from './homography.ts';
import { squaredError, type MotionModel } from './motionModel.ts';

/** A point agrees with a motion when its image is this near, pixels. */
const AGREE_PX = 1.2;
const TRIES = 160;

/**
 * The motion that most of the point pairs agree on (random sample consensus, Fischler & Bolles 1981, with the truncated
 * cost of Torr & Zisserman 2000), then fitted to all that agree. `start` is where each fit sets out from.
 */
export function robustMotion(
  model: MotionModel,
  start: Homography,
  from: Float64Array,
  to: Float64Array,
  use: Uint8Array,
  seed: number,
): { motion: Homography; agreeing: Uint8Array; share: number } | undefined {
  const candidates: number[] = [];
  for (let i = 0; i < use.length; i++) if (use[i]) candidates.push(i);
  const need = Math.max(Math.ceil(model.size / 2), 1);
  if (candidates.length < need + 2) return undefined;
  const random = seededRandom(seed);
  const limit = AGREE_PX * AGREE_PX;
  const costOf = (h: Homography) => {
    let cost = 0;
    for (const i of candidates)
      cost += Math.min(squaredError(h, from[2 * i]!, from[2 * i + 1]!, to[2 * i]!, to[2 * i + 1]!), limit);
    return cost;
  };
  let best: Homography | undefined;
  let least = Infinity;
  let tries = TRIES;
  const sample = new Int32Array(need);
  for (let attempt = 0; attempt < tries; attempt++) {
    for (let k = 0; k < need; k++) {
      let pick: number;
      do pick = candidates[Math.floor(random() * candidates.length)]!;
      while (sample.subarray(0, k).includes(pick));
      sample[k] = pick;
    }
    const h = model.fit(start, from, to, undefined, sample, 3);
    if (!h) continue;
    const cost = costOf(h);
    if (cost >= least) continue;
    [best, least] = [h, cost];
    // enough tries to have met one clean sample with 99.9 % at the share of good pairs seen so far
    const good = Math.max(1 - cost / (limit * candidates.length), 0.05);
    tries = Math.min(TRIES, Math.max(attempt + 1, Math.ceil(Math.log(0.001) / Math.log(1 - good ** need + 1e-12))));
  }
  if (!best) return undefined;
  const agreeing = new Uint8Array(use.length);
  const collect = (h: Homography) => {
    const list: number[] = [];
    agreeing.fill(0);
    for (const i of candidates)
      if (squaredError(h, from[2 * i]!, from[2 * i + 1]!, to[2 * i]!, to[2 * i + 1]!) < limit) {
        agreeing[i] = 1;
        list.push(i);
      }
    return list;
  };
  let list = collect(best);
  for (let round = 0; round < 2 && list.length >= need; round++) {
    best = model.fit(best, from, to, undefined, list, 3) ?? best;
    list = collect(best);
  }
  return list.length < need ? undefined : { motion: best, agreeing, share: list.length / candidates.length };
}
