// Selections carried through scenes with exact mattes (see scenes.ts) and through a shot of the demo, against the
// truth. The bars are under what was measured when they were set; `docs/accuracy.md` has the figures of all scenes.
import { join } from 'node:path';
import { expect, it } from 'vitest';
import {
  makeTables,
  SelectionCarrier,
  sourceFrame,
  type CarriedPicture,
  type CodePicture,
} from '../../packages/core/src/index.ts';
import { compareMattes, readGbr16, readGrey } from '../../e2e/reading.ts';
import { SCENES, sceneFrame } from './scenes.ts';

/** Half of each scene; the bench goes through all of it. */
const FRAMES = 20;
const tables = makeTables();
const pictureOf = (codes: CodePicture, scale: number): CarriedPicture => {
  const source = sourceFrame(codes, 'rec709', scale, tables);
  return { oklab: source.oklab(), luma: source.luma() };
};
const isIn = (alpha: ArrayLike<number>, half: number) =>
  Float32Array.from({ length: alpha.length }, (_, i) => (alpha[i]! >= half ? 1 : 0));

it.each([
  ['bird over its own photograph', 0.96, 0.93],
  ['bird behind wires, changing light', 0.93, 0.9],
  ['cup, quick and blurred, past a portrait’s post', 0.95, 0.88],
])('%s: IoU %f in the mean, %f at least, over every frame', (name, mean, least) => {
  const spec = SCENES.find((s) => s.name === name)!;
  const first = sceneFrame(spec, 0);
  const carrier = SelectionCarrier.from(pictureOf(first.codes, 1), isIn(first.alpha, 0.5));
  const ious: number[] = [];
  for (let t = 1; t <= FRAMES; t++) {
    const { codes, alpha } = sceneFrame(spec, t);
    ious.push(compareMattes(carrier.step(pictureOf(codes, 1)).mask, isIn(alpha, 0.5)).iou);
  }
  const found = ious.reduce((a, b) => a + b) / FRAMES;
  console.log(`${name}: mean ${found.toFixed(3)}, least ${Math.min(...ious).toFixed(3)}`);
  expect(found).toBeGreaterThan(mean);
  expect(Math.min(...ious)).toBeGreaterThan(least);
});

const [W, H] = [960, 540];
it('a scooter past a lamp post, out of the picture on one side: IoU 0.85 in the mean from one frame', () => {
  const shot = join(import.meta.dirname, '../media/shot-3-street.mp4');
  const toRgb =
    `zscale=w=${W}:h=${H}:matrixin=709:rangein=limited:matrix=gbr:range=full:` +
    'primariesin=709:primaries=709:transferin=709:transfer=709,format=gbrp16le';
  const frames = readGbr16(shot, W, H, toRgb);
  const truth = readGrey(join(import.meta.dirname, '../truth/shot-3-street.scooter.mkv'), W, H);
  const at = (f: number) => {
    const [g, b, r] = frames[f]!;
    return pictureOf({ width: W, height: H, r: r!, g: g!, b: b! }, 0.75);
  };
  const carrier = SelectionCarrier.from(at(2), isIn(truth[2]!, 128));
  const ious = frames.slice(3).map((_, k) => compareMattes(carrier.step(at(k + 3)).mask, isIn(truth[k + 3]!, 128)).iou);
  const mean = ious.reduce((a, b) => a + b) / ious.length;
  console.log(`scooter: mean ${mean.toFixed(3)}, least ${Math.min(...ious).toFixed(3)} of ${ious.length} frames`);
  expect(mean).toBeGreaterThan(0.85);
  expect(Math.min(...ious)).toBeGreaterThan(0.6);
});
