// From rendered passes to a developed picture: average the passes, expose, bloom, film curve, grain.
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
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
  const random = seededRandom(shot.seed * 7919 + frame);
  const gauss = () => Math.sqrt(-2 * Math.log(random() + 1e-12)) * Math.cos(2 * Math.PI * random());
  const grainOf = () => soften(Float32Array.from({ length: pixels }, gauss), size, 0.8);
  const luma = grain === 0 ? undefined : grainOf();
  const out = new Uint16Array(pixels * 3);
  const gain = 2 ** shot.exposureStops;
  rgb.forEach((raw, c) => {
    const plane = soften(raw, size, 0.6);
    const bloom = Float32Array.from(plane, (v) => Math.max(v * gain - 0.8, 0));
    boxBlur(bloom, size, Math.round((9 * size.width) / WIDTH));
    const own = luma && grainOf();
    for (let i = 0; i < pixels; i++) {
      const x = (i % size.width) / size.width - 0.5;
      const y = Math.floor(i / size.width) / size.height - 0.5;
      const vignette = 1 - 0.32 * (x * x + y * y);
      const exposed = (plane[i]! * gain + 0.25 * bloom[i]!) * vignette + 0.0012;
      const code = filmCurve(exposed) ** (1 / 2.4); // ITU-R BT.1886 display, inverted
      const noise = luma ? grain * (1.25 - code) * (luma[i]! + 0.5 * own![i]!) * (c === 2 ? 1.3 : 1) : 0;
      out[i * 3 + c] = Math.round(Math.min(Math.max(code + noise, 0), 1) * 65535);
    }
  });
  return out;
}
