// From rendered passes to a developed picture: average the passes, expose, bloom, film curve, grain.
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import type { LinearPlanes } from '../../packages/core/src/index.ts';
import { seededRandom } from '../../packages/core/src/testing/mattes.ts';
import { WIDTH, type DemoShot } from './shots.ts';

export interface Size {
  width: number;
  height: number;
}

function readExr(file: string, pixels: number): Float32Array[] {
  const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 'rawvideo', '-pix_fmt', 'gbrpf32le', '-'], {
    maxBuffer: pixels * 12 + 1024,
  });
  const plane = (i: number) =>
    new Float32Array(raw.buffer.slice(raw.byteOffset + i * pixels * 4, raw.byteOffset + (i + 1) * pixels * 4));
  return [plane(2), plane(0), plane(1)];
}
/** Repeated box blur, in place, a cheap stand-in for a wide Gaussian. */
function boxBlur(plane: Float32Array, { width, height }: Size, radius: number): void {
  const line = new Float32Array(Math.max(width, height));
  const pass = (start: number, stride: number, n: number) => {
    let sum = 0;
    const at = (i: number) => plane[start + Math.min(Math.max(i, 0), n - 1) * stride]!;
    for (let i = -radius; i <= radius; i++) sum += at(i);
    for (let i = 0; i < n; i++) {
      line[i] = sum / (2 * radius + 1);
      sum += at(i + radius + 1) - at(i - radius);
    }
    for (let i = 0; i < n; i++) plane[start + i * stride] = line[i]!;
  };
  for (let k = 0; k < 3; k++) {
    for (let y = 0; y < height; y++) pass(y * width, 1, width);
    for (let x = 0; x < width; x++) pass(x, width, height);
  }
}

/** Straight to 0.6, then a soft shoulder that reaches 1 at about four times white: keeps hue in the mid tones. */
function filmCurve(x: number): number {
  const knee = 0.6;
  return x <= knee ? x : knee + (1 - knee) * (1 - Math.exp(-(x - knee) / (1 - knee)));
}

/** How much of the blur below a camera's lens has. */
export const LENS_SOFTNESS = 0.6;

/** Camera lenses are not pixel-sharp: a 3×3 binomial blur mixed in by `amount`. */
export function soften(plane: Float32Array, { width, height }: Size, amount: number): Float32Array {
  const out = new Float32Array(plane);
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const side = plane[i - 1]! + plane[i + 1]! + plane[i - width]! + plane[i + width]!;
      const corner = plane[i - width - 1]! + plane[i - width + 1]! + plane[i + width - 1]! + plane[i + width + 1]!;
      out[i] = plane[i]! * (1 - amount) + amount * (plane[i]! * 0.25 + side * 0.125 + corner * 0.0625);
    }
  return out;
}

/**
 * Adds grain to encoded values 0..1, r, g, b, r …, in place; `grain` is its standard deviation on them. Drawn in one
 * layer for all channels and one for each.
 */
export function grainInto(codes: Float32Array, size: Size, grain: number, random: () => number): void {
  if (grain === 0) return;
  const pixels = size.width * size.height;
  const gauss = () => Math.sqrt(-2 * Math.log(random() + 1e-12)) * Math.cos(2 * Math.PI * random());
  const layer = () => soften(Float32Array.from({ length: pixels }, gauss), size, 0.8);
  const luma = layer();
  for (let c = 0; c < 3; c++) {
    const own = layer();
    const share = grain * (c === 2 ? 1.3 : 1);
    for (let i = 0; i < pixels; i++) {
      const code = codes[i * 3 + c]!;
      codes[i * 3 + c] = code + share * (1.25 - code) * (luma[i]! + 0.5 * own[i]!);
    }
  }
}

const DISPLAY = 1 / 2.4; // ITU-R BT.1886 display, inverted
/** Encoded values 0..1, r, g, b, r …, of linear light. */
export const codesOf = ({ r, g, b }: LinearPlanes): Float32Array => {
  const out = new Float32Array(r.length * 3);
  [r, g, b].forEach((plane, c) => plane.forEach((v, i) => (out[i * 3 + c] = Math.max(v, 0) ** DISPLAY)));
  return out;
};

/**
 * One frame's passes averaged and developed, encoded 0..65535, r, g, b, r …; `grain` is its standard deviation on
 * encoded values (0: none). Grain and blur are stated for 1280 pixels of width.
 */
export function developFrame(shot: DemoShot, dir: string, frame: number, size: Size, grain: number): Uint16Array {
  const pixels = size.width * size.height;
  const id = String(frame).padStart(3, '0');
  const rgb = [0, 1, 2].map(() => new Float32Array(pixels));
  for (let pass = 0; pass < shot.passes; pass++)
    readExr(join(dir, `light-${id}-${pass}.exr`), pixels).forEach((plane, c) => {
      const sum = rgb[c]!;
      for (let i = 0; i < pixels; i++) sum[i] = sum[i]! + Math.min(plane[i]!, 8) / shot.passes;
    });
  const gain = 2 ** shot.exposureStops;
  const [r, g, b] = rgb.map((raw) => {
    const plane = soften(raw, size, LENS_SOFTNESS);
    const bloom = Float32Array.from(plane, (v) => Math.max(v * gain - 0.8, 0));
    boxBlur(bloom, size, Math.round((9 * size.width) / WIDTH));
    return plane.map((v, i) => {
      const x = (i % size.width) / size.width - 0.5;
      const y = Math.floor(i / size.width) / size.height - 0.5;
      const vignette = 1 - 0.32 * (x * x + y * y);
      return filmCurve((v * gain + 0.25 * bloom[i]!) * vignette + 0.0012);
    });
  }) as [Float32Array, Float32Array, Float32Array];
  const codes = codesOf({ r, g, b });
  grainInto(codes, size, grain, seededRandom(shot.seed * 7919 + frame));
  return Uint16Array.from(codes, (v) => Math.round(Math.min(Math.max(v, 0), 1) * 65535));
}
