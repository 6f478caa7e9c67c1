// Pyramid and point following against OpenCV 4.12 (JavaScript build), on a smooth random picture.
import { beforeAll, expect, it } from 'vitest';
import { cornersIn } from './corners.ts';
import { followPoints } from './flow.ts';
import { homographyOfQuads, type Quad } from './homography.ts';
import { pyramidOf, smoothed } from './pyramid.ts';
import { seededRandom } from './random.ts';
import { cv, cvReady } from '../testing/opencv.ts';

const [W, H] = [160, 120];
const random = seededRandom(5);
const waves = Array.from({ length: 24 }, () => ({
  fx: (random() - 0.5) * 0.9,
  fy: (random() - 0.5) * 0.9,
  phase: random() * 6.3,
}));
/** A sum of random waves, moved by (dx, dy). */
const picture = (dx = 0, dy = 0): Float32Array =>
  Float32Array.from(
    { length: W * H },
    (_, i) =>
      0.5 +
      waves.reduce((s, w) => s + Math.sin(w.fx * ((i % W) - dx) + w.fy * (Math.floor(i / W) - dy) + w.phase), 0) / 60,
  );
beforeAll(cvReady, 60_000);

it('halves as pyrDown does and smooths as a 3 × 3 Gaussian, to 1e-5 away from the rim', () => {
  const source = cv.matFromArray(H, W, cv.CV_32FC1, [...picture()]);
  const ground = new cv.Mat();
  cv.GaussianBlur(source, ground, new cv.Size(3, 3), 0);
  const half = new cv.Mat();
  cv.pyrDown(ground, half);
  const ours = pyramidOf(picture(), W, H, 2);
  const differences = (a: Float32Array, b: Float32Array, w: number, h: number) =>
    Math.max(
      ...Array.from({ length: (w - 6) * (h - 6) }, (_, k) => {
        const i = (3 + Math.floor(k / (w - 6))) * w + 3 + (k % (w - 6));
        return Math.abs(a[i]! - b[i]!);
      }),
    );
  expect(differences(smoothed(picture(), W, H), ground.data32F, W, H)).toBeLessThan(1e-5);
  expect([ours[1]!.width, ours[1]!.height]).toEqual([half.cols, half.rows]);
  expect(differences(ours[1]!.luma, half.data32F, W / 2, H / 2)).toBeLessThan(1e-5);
  for (const m of [source, ground, half]) m.delete();
});

it('follows points at least as well as pyramidal Lucas–Kanade of OpenCV, with a window of the same size', () => {
  const truth = [5.3, -3.7] as const;
  // both read the same 8-bit codes
  const rounded = (plane: Float32Array) => plane.map((v) => Math.round(v * 255) / 255);
  const points = Float64Array.from(Array.from({ length: 60 }, () => [40 + random() * 80, 40 + random() * 40]).flat());
  const { places, kept } = followPoints(
    pyramidOf(rounded(picture()), W, H),
    pyramidOf(rounded(picture(...truth)), W, H),
    points,
    points,
  );
  expect(kept.reduce((n, k) => n + k, 0)).toBeGreaterThan(50);
  const image = (plane: Float32Array) =>
    cv.matFromArray(
      H,
      W,
      cv.CV_8UC1,
      [...plane].map((v) => Math.round(v * 255)),
    );
  const [from, to, next, status, error] = [
    image(picture()),
    image(picture(...truth)),
    new cv.Mat(),
    new cv.Mat(),
    new cv.Mat(),
  ];
  // OpenCV's pixels have their centres at whole numbers
  const at = cv.matFromArray(
    points.length / 2,
    1,
    cv.CV_32FC2,
    [...points].map((v) => v - 0.5),
  );
  cv.calcOpticalFlowPyrLK(from, to, at, next, status, error, new cv.Size(13, 13), 3);
  const errors = (place: (k: number) => number) =>
    Array.from(kept, (_, i) =>
      Math.hypot(place(2 * i) - points[2 * i]! - truth[0], place(2 * i + 1) - points[2 * i + 1]! - truth[1]),
    )
      .filter((_, i) => kept[i])
      .sort((a, b) => a - b);
  const median = (values: number[]) => values[values.length >> 1]!;
  const [ours, theirs] = [median(errors((k) => places[k]!)), median(errors((k) => next.data32F[k]! + 0.5))];
  expect(ours).toBeLessThan(0.03);
  expect(ours).toBeLessThanOrEqual(theirs);
  for (const m of [from, to, next, status, error, at]) m.delete();
});

it(
  'finds the corners where OpenCV’s smaller eigenvalue is largest: no place it leaves out, out ' +
    'of reach of those it took, is a better one',
  () => {
    const { places, eigen } = (() => {
      const luma = picture();
      const source = cv.matFromArray(H, W, cv.CV_32FC1, [...luma]);
      const out = new cv.Mat();
      // its derivatives are those of a Sobel kernel: compared are orders, not values
      cv.cornerMinEigenVal(source, out, 7, 3);
      return {
        places: cornersIn({ width: W, height: H, luma }, { x0: 20, y0: 20, x1: 140, y1: 100 }, () => true, 20, 10),
        eigen: out.data32F.slice(),
      };
    })();
    const at = (x: number, y: number) => eigen[Math.floor(y) * W + Math.floor(x)]!;
    const inOrder: number[] = [];
    for (let i = 0; i < places.length; i += 2) inOrder.push(at(places[i]!, places[i + 1]!));
    expect(inOrder.length).toBe(20);
    // strongest first, as OpenCV values them too, within what the other derivative makes of it
    for (let i = 1; i < inOrder.length; i++) expect(inOrder[i]!).toBeLessThan(1.25 * Math.min(...inOrder.slice(0, i)));
    const weakest = inOrder.at(-1)!;
    const isPeak = (x: number, y: number) =>
      [
        [-1, 0],
        [1, 0],
        [0, -1],
        [0, 1],
      ].every(([dx, dy]) => at(x, y) > at(x + dx!, y + dy!));
    for (let y = 22; y < 98; y++)
      for (let x = 22; x < 138; x++) {
        if (at(x, y) < 1.25 * weakest || !isPeak(x, y)) continue;
        let near = false;
        for (let i = 0; i < places.length && !near; i += 2)
          near = Math.hypot(places[i]! - x - 0.5, places[i + 1]! - y - 0.5) < 11.5;
        expect(near, `${x}, ${y}`).toBe(true);
      }
  },
);

it('maps four corners to four others by the same matrix as getPerspectiveTransform', () => {
  for (let k = 0; k < 20; k++) {
    const from = [
      [20, 15],
      [130, 22],
      [121, 96],
      [12, 104],
    ].map(([x, y]) => [x! + 8 * random(), y! + 8 * random()]) as unknown as Quad;
    const to = from.map(([x, y]) => [
      1.2 * x - 0.3 * y + 30 + 10 * random(),
      0.2 * x + 0.9 * y - 12 + 10 * random(),
    ]) as unknown as Quad;
    const theirs = cv.getPerspectiveTransform(
      cv.matFromArray(4, 1, cv.CV_32FC2, from.flat()),
      cv.matFromArray(4, 1, cv.CV_32FC2, to.flat()),
    );
    homographyOfQuads(from, to)!.forEach((v, i) => expect(v).toBeCloseTo(theirs.data64F[i]!, 3));
  }
});
it('has no map between corners of which three lie on a line', () => {
  expect(
    homographyOfQuads(
      [
        [0, 0],
        [10, 0],
        [20, 0],
        [5, 9],
      ],
      [
        [0, 0],
        [10, 0],
        [10, 10],
        [0, 10],
      ],
    ),
  ).toBeUndefined();
});
