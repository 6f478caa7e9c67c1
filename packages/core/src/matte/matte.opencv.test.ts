// Against OpenCV 4.12 (its JavaScript build): distance, morphology, components, Gaussian, box mean and guided filter,
// on random mattes and on the demo's real ones.
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { maskDistanceInto } from '../shape/nearestSite.ts';
import { randomMatte, seededRandom, sum, thresholded, worst } from '../testing/mattes.ts';
import { connectedComponents } from './components.ts';
import { moveEdgeInPlace } from './edge.ts';
import { markEdgeBand } from './edgeBand.ts';
import { gaussianInPlace } from './gaussian.ts';
import { boxMeanInto } from './boxMean.ts';
import { guidedFilterInPlace } from './guidedFilter.ts';
import { cv, cvReady } from '../testing/opencv.ts';

beforeAll(cvReady, 60_000);

interface Sample {
  name: string;
  alpha: Float32Array;
  width: number;
  height: number;
}
/** Frame 0 of the suitcase's rendered matte, a quarter of the size. */
function realMatte(): Sample {
  const file = join(import.meta.dirname, '../../../../demo/truth/shot-2-cafe.suitcase.mkv');
  const raw = execFileSync('ffmpeg', [
    '-v',
    'error',
    '-i',
    file,
    '-frames:v',
    '1',
    '-vf',
    'scale=320:180:flags=area',
    '-f',
    'rawvideo',
    '-pix_fmt',
    'gray',
    '-',
  ]);
  return {
    name: 'the suitcase behind the chair',
    alpha: Float32Array.from(raw, (v) => v / 255),
    width: 320,
    height: 180,
  };
}
const SAMPLES: Sample[] = [
  ...[1, 2, 3].map((seed) => ({ name: `random ${seed}`, alpha: randomMatte(150, 110, seed), width: 150, height: 110 })),
  realMatte(),
];

const floats = (plane: Float32Array, w: number, h: number) => {
  const mat = new cv.Mat(h, w, cv.CV_32F);
  mat.data32F.set(plane);
  return mat;
};
const bytes = (plane: ArrayLike<number>, w: number, h: number) => {
  const mat = new cv.Mat(h, w, cv.CV_8U);
  mat.data.set(plane);
  return mat;
};
/** A flat disc {dx² + dy² ≤ r²} as OpenCV takes it. */
const disc = (r: number) => {
  const n = 2 * Math.floor(r) + 1;
  const c = Math.floor(r);
  return bytes(
    Array.from({ length: n * n }, (_, i) => (((i % n) - c) ** 2 + (Math.floor(i / n) - c) ** 2 <= r * r ? 1 : 0)),
    n,
    n,
  );
};

describe.each(SAMPLES)('on $name', ({ alpha, width, height }) => {
  it.each([1, 3, 8])(
    'the band round the outline is where OpenCV’s dilation by a square of reach %i differs from its erosion',
    (radius) => {
      const mask = bytes(thresholded(alpha), width, height);
      const side = 2 * radius + 1;
      const square = cv.Mat.ones(side, side, cv.CV_8U);
      const [dilated, eroded] = [new cv.Mat(), new cv.Mat()];
      // beyond the picture there is nothing to be near to, inside or out
      cv.dilate(mask, dilated, square, new cv.Point(-1, -1), 1, cv.BORDER_CONSTANT, new cv.Scalar(0));
      cv.erode(mask, eroded, square, new cv.Point(-1, -1), 1, cv.BORDER_CONSTANT, new cv.Scalar(1));
      const ours = new Uint8Array(alpha.length);
      markEdgeBand(ours, alpha, width, height, radius);
      expect(ours).toEqual(Uint8Array.from(dilated.data, (d, i) => (d !== eroded.data[i] ? 1 : 0)));
    },
  );

  it('the Euclidean distance is OpenCV’s precise one, to 1e-3 px', () => {
    const mask = thresholded(alpha);
    const ours = new Float32Array(alpha.length);
    maskDistanceInto(ours, mask, width, height);
    const theirs = new cv.Mat();
    cv.distanceTransform(
      bytes(
        Array.from(mask, (m) => (m ? 0 : 255)),
        width,
        height,
      ),
      theirs,
      cv.DIST_L2,
      cv.DIST_MASK_PRECISE,
    );
    expect(worst(ours, theirs.data32F)).toBeLessThan(1e-3);
  });
  it.each([1, 2.5, 6])(
    'growing a hard matte by %f px lies between OpenCV’s dilations by half a pixel less and one more',
    (r) => {
      const mask = thresholded(alpha);
      const grown = Float32Array.from(mask);
      moveEdgeInPlace(grown, width, height, r);
      const dilated = (radius: number) => {
        const out = new cv.Mat();
        cv.dilate(
          bytes(mask, width, height),
          out,
          disc(radius),
          new cv.Point(-1, -1),
          1,
          cv.BORDER_CONSTANT,
          new cv.Scalar(0),
        );
        return out.data;
      };
      const [less, more] = [dilated(r - 0.5), dilated(r + 1)];
      let [short, over] = [0, 0];
      for (let i = 0; i < mask.length; i++) {
        if (less[i] === 1 && grown[i]! < 0.5) short++;
        if (more[i] === 0 && grown[i]! > 0.5) over++;
      }
      expect([short, over]).toEqual([0, 0]);
    },
  );
  it('shrinking a hard matte is growing its complement, and OpenCV’s erosion to a pixel either way', () => {
    const mask = thresholded(alpha);
    const shrunk = Float32Array.from(mask);
    moveEdgeInPlace(shrunk, width, height, -2);
    const complement = Float32Array.from(mask, (m) => 1 - m);
    moveEdgeInPlace(complement, width, height, 2);
    expect(
      worst(
        shrunk,
        complement.map((c) => 1 - c),
      ),
    ).toBeLessThan(1e-5);
    const eroded = (radius: number) => {
      const out = new cv.Mat();
      cv.erode(
        bytes(mask, width, height),
        out,
        disc(radius),
        new cv.Point(-1, -1),
        1,
        cv.BORDER_CONSTANT,
        new cv.Scalar(1),
      );
      return out.data;
    };
    const [more, less] = [eroded(1.5), eroded(3)];
    let off = 0;
    for (let i = 0; i < mask.length; i++)
      if ((more[i] === 0 && shrunk[i]! > 0.5) || (less[i] === 1 && shrunk[i]! < 0.5)) off++;
    expect(off).toBe(0);
  });
  it.each([
    [true, 8],
    [false, 4],
  ] as const)('the components are OpenCV’s (corners join: %s)', (corners, connectivity) => {
    const mask = thresholded(alpha);
    const { labels, count } = connectedComponents(mask, width, height, corners);
    const theirs = new cv.Mat();
    const n = cv.connectedComponents(bytes(mask, width, height), theirs, connectivity, cv.CV_32S);
    expect(count).toBe(n - 1);
    // the same partition: labels map one to one
    const pairs = new Set<string>();
    for (let i = 0; i < labels.length; i++) pairs.add(`${labels[i]} ${theirs.data32S[i]}`);
    expect(pairs.size).toBe(new Set(theirs.data32S).size);
  });
  it.each([0.4, 1, 2, 5, 20])('the Gaussian of σ %f is OpenCV’s, to 1e-3', (sigma) => {
    const ours = alpha.slice();
    gaussianInPlace(ours, width, height, sigma);
    const theirs = new cv.Mat();
    const reach = 2 * Math.ceil(5 * sigma) + 1;
    cv.GaussianBlur(floats(alpha, width, height), theirs, new cv.Size(reach, reach), sigma, sigma, cv.BORDER_REPLICATE);
    expect(worst(ours, theirs.data32F)).toBeLessThan(1e-3);
  });
  it('the guided filter is that of He et al. put together from OpenCV’s box filter, to 1e-3', () => {
    const random = seededRandom(99);
    const guide = alpha.map((a) => 0.3 + 0.4 * a + 0.03 * random());
    const noisy = alpha.map((a) => a + 0.4 * (random() - 0.5));
    const [r, epsilon] = [4, 0.03 ** 2];
    const ours = noisy.slice();
    guidedFilterInPlace(ours, guide, width, height, r, epsilon);
    // means over windows cut at the border: the box sum of the picture over that of ones
    const boxed = (plane: Float32Array) => {
      const [of, ones] = [new cv.Mat(), new cv.Mat()];
      const size = new cv.Size(2 * r + 1, 2 * r + 1);
      cv.boxFilter(floats(plane, width, height), of, cv.CV_32F, size, new cv.Point(-1, -1), false, cv.BORDER_CONSTANT);
      cv.boxFilter(
        floats(new Float32Array(plane.length).fill(1), width, height),
        ones,
        cv.CV_32F,
        size,
        new cv.Point(-1, -1),
        false,
        cv.BORDER_CONSTANT,
      );
      return Float64Array.from(of.data32F, (v, i) => v / ones.data32F[i]!);
    };
    const mean = new Float32Array(alpha.length);
    boxMeanInto(mean, noisy, width, height, r);
    expect(worst(mean, boxed(noisy))).toBeLessThan(1e-5);
    const [mI, mp, mIp, mII] = [guide, noisy, guide.map((g, i) => g * noisy[i]!), guide.map((g) => g * g)].map(
      boxed,
    ) as [Float64Array, Float64Array, Float64Array, Float64Array];
    const a = Float32Array.from(mI, (_, i) => (mIp[i]! - mI[i]! * mp[i]!) / (mII[i]! - mI[i]! ** 2 + epsilon));
    const b = Float32Array.from(mI, (_, i) => mp[i]! - a[i]! * mI[i]!);
    const [mA, mB] = [boxed(a), boxed(b)];
    expect(
      worst(
        ours,
        Float32Array.from(guide, (g, i) => mA[i]! * g + mB[i]!),
      ),
    ).toBeLessThan(1e-3);
    expect(sum(ours.map((v, i) => Math.abs(v - alpha[i]!)))).toBeLessThan(
      sum(noisy.map((v, i) => Math.abs(v - alpha[i]!))) / 2,
    );
  });
});

describe('random masks, where regions meet at corners and pixels stand alone', () => {
  const random = seededRandom(21);
  const masks = [
    [31, 17, 0.35],
    [17, 31, 0.5],
    [40, 40, 0.6],
    [1, 25, 0.5],
    [25, 1, 0.5],
  ].map(([w, h, share]) => ({
    w: w!,
    h: h!,
    mask: Uint8Array.from({ length: w! * h! }, () => (random() < share! ? 1 : 0)),
  }));
  it.each([
    [true, 8],
    [false, 4],
  ] as const)('have OpenCV’s components (corners join: %s)', (corners, connectivity) => {
    for (const { w, h, mask } of masks) {
      const { labels, count } = connectedComponents(mask, w, h, corners);
      const theirs = new cv.Mat();
      expect(count).toBe(cv.connectedComponents(bytes(mask, w, h), theirs, connectivity, cv.CV_32S) - 1);
      const pairs = new Set(Array.from(labels, (label, i) => `${label} ${theirs.data32S[i]}`));
      expect(pairs.size).toBe(new Set(theirs.data32S).size);
    }
  });
});
