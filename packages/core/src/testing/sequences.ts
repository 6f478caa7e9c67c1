// Sequences with known motion, made from a photograph: a smooth homography, noise, changing light, motion blur and an
// occluder, as TRACKED accuracy is stated on. The same seed gives the same pictures.
import { compose, inverted, project, projectQuad, type Homography, type Quad } from '../track/homography.ts';
import { seededRandom } from '../track/random.ts';

export interface Photograph {
  width: number;
  height: number;
  luma: Float32Array;
}
export interface SequenceSpec {
  photograph: Photograph;
  /** The followed region on the photograph. */
  region: readonly [x0: number, y0: number, x1: number, y1: number];
  width: number;
  height: number;
  frames: number;
  seed: number;
  /** Leave out: no move of that kind. Zoom runs between these factors, turn ± degrees, perspective ± 1/px, pan ± px. */
  zoom?: readonly [number, number];
  turnDeg?: number;
  perspective?: number;
  panPx?: number;
  /** Standard deviation of noise, luma 0..1. */
  noise: number;
  /** Gain goes ± this. */
  gain: number;
  blurPx: number;
  /** Share of the region's width that is covered, and from which frame to which. `by`: what covers it. */
  occluder?:
    | undefined
    | { share: number; from: number; to: number; by: Photograph | 'grey'; enters?: 'slides' | 'at once' | 'crosses' };
  /** Multiplies the photograph's contrast about its mean, and adds to it: a weak or dark texture. */
  contrast?: number;
  lift?: number;
  /** The surface waves beyond its plane motion: amplitude and length in pixels; it sets in over the first frames. */
  wave?: { px: number; lengthPx: number };
}
export interface Sequence {
  spec: SequenceSpec;
  /** Region's corners per frame: the truth. */
  corners: Quad[];
  /** Where a place of frame 0 lies on a frame: the truth, waves included. */
  placeAt: (t: number, x: number, y: number) => [number, number];
  motions: Homography[];
  region: Quad;
  frame: (t: number) => Float32Array;
  /** Where the occluder lies on a frame: x range over the full height; undefined where there is none. */
  occluded: (t: number) => { x0: number; x1: number } | undefined;
}

const TAPS = 5;
/** A place mirrored back into 0..n−1: what lies beyond the photograph's rim. */
function folded(v: number, n: number): number {
  const size = Math.abs(v);
  // most lie in the photograph: a floating remainder costs more than all else here
  if (size < n - 1) return size;
  const m = size % (2 * n - 2);
  return m < n - 1 ? m : 2 * n - 2 - m;
}

/** Smooth pseudo-random wander −1..1: two slow sines of random phase and rate. */
function wander(random: () => number, frames: number): (t: number) => number {
  const [p1, p2, r1, r2] = [random() * 2 * Math.PI, random() * 2 * Math.PI, 0.8 + random() * 0.6, 1.6 + random() * 1.2];
  return (t) =>
    0.65 * Math.sin(p1 + (2 * Math.PI * r1 * t) / frames) + 0.35 * Math.sin(p2 + (2 * Math.PI * r2 * t) / frames);
}

export function makeSequence(spec: SequenceSpec): Sequence {
  const { photograph: photo, width, height, frames, seed } = spec;
  const random = seededRandom(seed);
  const [zoomAt, turnAt, px, py, gx, gy, lightAt] = Array.from({ length: 7 }, () => wander(random, frames)) as [
    (t: number) => number,
    (t: number) => number,
    (t: number) => number,
    (t: number) => number,
    (t: number) => number,
    (t: number) => number,
    (t: number) => number,
  ];
  const [rx0, ry0, rx1, ry1] = spec.region;
  const [cx, cy] = [(rx0 + rx1) / 2, (ry0 + ry1) / 2];
  const place = (t: number): Homography => {
    const [z0, z1] = spec.zoom ?? [1, 1];
    const zoom = Math.exp((Math.log(z0) + Math.log(z1)) / 2 + ((Math.log(z1) - Math.log(z0)) / 2) * zoomAt(t));
    const angle = ((spec.turnDeg ?? 0) * turnAt(t) * Math.PI) / 180;
    const [c, s] = [Math.cos(angle) * zoom, Math.sin(angle) * zoom];
    const [gxt, gyt] = [(spec.perspective ?? 0) * gx(t), (spec.perspective ?? 0) * gy(t)];
    const pan = spec.panPx ?? 0;
    const about: Homography = [1, 0, -cx, 0, 1, -cy, 0, 0, 1];
    const move: Homography = [c, -s, 0, s, c, 0, gxt, gyt, 1];
    const back: Homography = [1, 0, width / 2 + pan * px(t), 0, 1, height / 2 + pan * py(t), 0, 0, 1];
    return compose(back, compose(move, about));
  };
  // the photograph's pixels stand at frame 0 as `base` puts them; motions are from frame 0
  const base = place(0);
  const toZero = inverted(base);
  const motions = Array.from({ length: frames }, (_, t) => compose(place(t), toZero));
  const region = projectQuad(base, [
    [rx0, ry0],
    [rx1, ry0],
    [rx1, ry1],
    [rx0, ry1],
  ]);
  const corners = motions.map((m) => projectQuad(m, region));
  const mean = photo.luma.reduce((a, v) => a + v, 0) / photo.luma.length;
  const waved = (t: number, x: number, y: number): [number, number] => {
    const { px: amplitude, lengthPx } = spec.wave!;
    const a = amplitude * Math.min(t / 12, 1);
    const k = (2 * Math.PI) / lengthPx;
    return [a * 0.5 * Math.sin(k * y + 0.11 * t), a * Math.sin(k * x + 0.17 * t)];
  };
  const { width: across, height: down, luma } = photo;
  const { contrast = 1, lift = 0 } = spec;
  const value = (x: number, y: number): number => {
    const u = folded(x - 0.5, across);
    const v = folded(y - 0.5, down);
    const ix = Math.min(u | 0, across - 2);
    const iy = Math.min(v | 0, down - 2);
    const fx = u - ix;
    const fy = v - iy;
    const i = iy * across + ix;
    const l =
      (1 - fy) * ((1 - fx) * luma[i]! + fx * luma[i + 1]!) +
      fy * ((1 - fx) * luma[i + across]! + fx * luma[i + across + 1]!);
    return (l - mean) * contrast + mean + lift;
  };
  const occluded = (t: number) => {
    const o = spec.occluder;
    if (!o || t < o.from || t > o.to) return undefined;
    const xs = corners[t]!.map((p) => p[0]);
    const [left, right] = [Math.min(...xs), Math.max(...xs)];
    const wide = (right - left) * o.share;
    if (o.enters === 'crosses') {
      const x0 = left - wide + ((right - left + wide) * (t - o.from)) / (o.to - o.from);
      return { x0, x1: x0 + wide };
    }
    // it comes in from the left and rests with its edge at `share`, or is there at once
    const way = o.enters === 'at once' ? 1 : Math.min((t - o.from + 1) / 5, (o.to - t + 1) / 5, 1);
    return { x0: left - 40 - wide, x1: left + wide * way };
  };
  const frame = (t: number): Float32Array => {
    const out = new Float32Array(width * height);
    const noise = seededRandom(seed * 7919 + t * 104729 + 1);
    const gain = 1 + spec.gain * lightAt(t);
    const taps = spec.blurPx > 0 ? TAPS : 1;
    // the shutter: the place is sampled over the part of the frame's time in which it moves by about blurPx
    const speed = (() => {
      const [a, b] = [corners[Math.max(t - 1, 0)]!, corners[Math.min(t + 1, frames - 1)]!];
      return (
        Math.max(
          Math.hypot(a[0][0] - b[0][0], a[0][1] - b[0][1]),
          Math.hypot(a[2][0] - b[2][0], a[2][1] - b[2][1]),
          1e-6,
        ) / (t === 0 || t === frames - 1 ? 1 : 2)
      );
    })();
    const open = spec.blurPx === 0 ? 0 : Math.min(spec.blurPx / speed, 0.8);
    for (let k = 0; k < taps; k++) {
      const [a, b, c, d, e, f, g, h, j] = inverted(place(t + ((k + 0.5) / taps - 0.5) * open));
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++) {
          const w = g * (x + 0.5) + h * (y + 0.5) + j;
          const i = y * width + x;
          const qx = (a * (x + 0.5) + b * (y + 0.5) + c) / w;
          const qy = (d * (x + 0.5) + e * (y + 0.5) + f) / w;
          let sx = qx;
          let sy = qy;
          for (let round = 0; spec.wave && round < 4; round++) {
            const [dx, dy] = waved(t, sx, sy);
            sx = qx - dx;
            sy = qy - dy;
          }
          out[i] = out[i]! + value(sx, sy) / taps;
        }
    }
    const o = occluded(t);
    if (o && spec.occluder) {
      const { by } = spec.occluder;
      for (let y = 0; y < height; y++)
        for (let x = Math.max(Math.floor(o.x0), 0); x < Math.min(Math.ceil(o.x1), width); x++) {
          const share = Math.min(Math.max(o.x1 - x, 0), 1);
          const over =
            by === 'grey' ? 0.45 : by.luma[(y % by.height) * by.width + (Math.abs(Math.round(x - o.x1)) % by.width)]!;
          out[y * width + x] = out[y * width + x]! * (1 - share) + over * share;
        }
    }
    for (let i = 0; i < out.length; i++) {
      const gauss = Math.sqrt(-2 * Math.log(noise() + 1e-12)) * Math.cos(2 * Math.PI * noise());
      out[i] = Math.min(Math.max(Math.round((out[i]! * gain + spec.noise * gauss) * 255) / 255, 0), 1);
    }
    return out;
  };
  const placeAt = (t: number, x: number, y: number): [number, number] => {
    if (!spec.wave) return project(motions[t]!, x, y);
    const [sx, sy] = project(toZero, x, y);
    const [dx, dy] = waved(t, sx, sy);
    return project(place(t), sx + dx, sy + dy);
  };
  return { spec, corners, placeAt, motions, region, frame, occluded };
}

/** Mean distance of a quadrilateral's corners from the truth, pixels. */
export const cornerError = (found: Quad, truth: Quad): number =>
  found.reduce((sum, p, i) => sum + Math.hypot(p[0] - truth[i]![0], p[1] - truth[i]![1]), 0) / 4;
