// A key and a shape on a real photograph, against an outline drawn by hand on it: a red glazed cup and saucer on
// red-brown wood, so that neither the key nor the shape can do it alone.
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { frameMatte, RANGE_KEY_SPEC, makeTables, oklabFromLinear709, pictureFromRgba, shapeMatteInto, sourceFrame, linearFromCode, windowsFromPicks, type Geometry, type Layer, type PathPoint } from '../packages/core/src/index.ts';
import { compareMattes } from '../e2e/reading.ts';

const [W, H] = [600, 400];
const corner = (x: number, y: number): PathPoint => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 });
const ellipse = (cx: number, cy: number, rx: number, ry: number, turnDeg = 0): Geometry => ({ form: 'ellipse', cx, cy, width: 2 * rx, height: 2 * ry, turnDeg });
const hard = { innerPx: 0, outerPx: 0, falloff: 'linear' as const };
const soft = { innerPx: 1, outerPx: 1, falloff: 'smooth' as const };

/** By hand on the photograph: the saucer, without the white cup, the spoon's bowl and its handle. */
function truth(): Float32Array {
  const plane = (geometry: Geometry) => {
    const out = new Float32Array(W * H);
    shapeMatteInto(out, W, H, { geometry, feather: hard }, 1);
    return out;
  };
  const saucer = plane(ellipse(278, 227, 203, 158, 8));
  const taken = [ellipse(290, 113, 119, 96), ellipse(366, 283, 40, 43), { form: 'spline' as const, points: [corner(397, 66), corner(424, 74), corner(386, 242), corner(374, 240)] }].map(plane);
  return saucer.map((v, i) => v * (1 - Math.max(...taken.map((t) => t[i]!))));
}

it('isolates a glazed red saucer from red wood with four picks and two outlines: IoU ≥ 0.85', () => {
  const rgba = execFileSync('ffmpeg', ['-v', 'error', '-i', join(import.meta.dirname, 'photographs/coffee.png'), '-f', 'rawvideo', '-pix_fmt', 'rgba', '-'], { maxBuffer: 2e6 });
  const picture = pictureFromRgba(rgba, W, H);
  const source = sourceFrame(picture, 'srgb', 1, makeTables());
  const pick = (x: number, y: number) => ({
    sign: 'add' as const,
    samples: [-2, 0, 2].flatMap((dy) => [-2, 0, 2].map((dx) => {
      const i = (y + dy) * W + x + dx;
      return oklabFromLinear709([picture.r[i]!, picture.g[i]!, picture.b[i]!].map((c) => linearFromCode('srgb', c / 255)) as [number, number, number]);
    })),
  });
  const layer = { on: true, invert: false, strength: 1 };
  const key = windowsFromPicks(RANGE_KEY_SPEC, [pick(130, 200), pick(440, 220), pick(250, 350), pick(180, 330)])!;
  const layers: Layer[] = [
    { ...layer, kind: 'range', mode: 'add', key },
    { ...layer, kind: 'shape', mode: 'within', geometry: ellipse(278, 227, 204, 159, 8), feather: soft },
    { ...layer, kind: 'shape', mode: 'without', geometry: ellipse(290, 113, 118, 95), feather: soft },
  ];
  const wanted = truth();
  const keyed = compareMattes(frameMatte(source, layers.slice(0, 1)), wanted);
  const both = compareMattes(frameMatte(source, layers), wanted);
  console.log(`photograph: key alone IoU ${keyed.iou.toFixed(3)}; key and shapes IoU ${both.iou.toFixed(3)}, mean absolute error ${both.mae.toFixed(4)}`);
  expect(both.iou).toBeGreaterThan(0.85);
  expect(both.iou).toBeGreaterThan(keyed.iou);
});
