// Selections carried through scenes with exact mattes: how well they overlap with the truth, how sure they say they
// are, and what a frame takes.
import { makeTables, SelectionCarrier, sourceFrame, type CarriedPicture } from '../packages/core/src/index.ts';
import { compareMattes } from '../e2e/reading.ts';
import { SCENES, sceneFrame, type SceneSpec } from '../demo/carrying/scenes.ts';

export interface CarryingRow {
  name: string;
  /** Was the carrying tuned on this scene? */
  tuned: boolean;
  iou: { mean: number; least: number };
  /** Mean |certainty − overlap|. */
  certaintyOff: number;
  msPerFrame: number;
}
const FRAMES = 41;
const tables = makeTables();
const isIn = (alpha: Float32Array) => alpha.map((v) => (v >= 0.5 ? 1 : 0));

function carriedThrough(spec: SceneSpec): CarryingRow {
  const at = (t: number): CarriedPicture & { truth: Float32Array } => {
    const { codes, alpha } = sceneFrame(spec, t);
    const source = sourceFrame(codes, 'rec709', 1, tables);
    return { oklab: source.oklab(), luma: source.luma(), truth: isIn(alpha) };
  };
  const first = at(0);
  const carrier = SelectionCarrier.from(first, first.truth);
  const ious: number[] = [];
  let [off, ms] = [0, 0];
  for (let t = 1; t < FRAMES; t++) {
    const now = at(t);
    const begun = performance.now();
    const { mask, certainty } = carrier.step(now);
    ms += performance.now() - begun;
    const { iou } = compareMattes(mask, now.truth);
    ious.push(iou);
    off += Math.abs(iou - certainty);
  }
  const mean = ious.reduce((a, b) => a + b, 0) / ious.length;
  const { name, tuned } = spec;
  return {
    name,
    tuned,
    iou: { mean, least: Math.min(...ious) },
    certaintyOff: off / ious.length,
    msPerFrame: ms / ious.length,
  };
}

/** A row for each scene, told as soon as it is there. */
export function benchCarrying(told: (row: CarryingRow) => void): void {
  for (const spec of SCENES) told(carriedThrough(spec));
}
