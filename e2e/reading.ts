// Reads footage and renders back with ffmpeg alone, for comparison.
import { execFileSync } from 'node:child_process';

/** All frames of a video as 16-bit planes G, B, R per frame; `filters` convert it first. */
export function readGbr16(file: string, width: number, height: number, filters?: string): Uint16Array[][] {
  const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', file, ...(filters ? ['-vf', filters] : []), '-f', 'rawvideo', '-pix_fmt', 'gbrp16le', '-'], { maxBuffer: 2 ** 31 - 1 });
  const n = width * height;
  const frames: Uint16Array[][] = [];
  for (let at = 0; at + n * 6 <= raw.length; at += n * 6) frames.push([0, 1, 2].map((c) => new Uint16Array(raw.buffer.slice(raw.byteOffset + at + c * n * 2, raw.byteOffset + at + (c + 1) * n * 2))));
  return frames;
}

/** All frames of a grey matte, 8 bit. */
export function readGrey(file: string, width: number, height: number): Uint8Array[] {
  const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 'rawvideo', '-pix_fmt', 'gray', '-'], { maxBuffer: 2 ** 31 - 1 });
  return Array.from({ length: raw.length / (width * height) }, (_, i) => raw.subarray(i * width * height, (i + 1) * width * height));
}

/** Soft intersection over union (Σ min / Σ max) and mean absolute error of two mattes with values 0..1. */
export function compareMattes(a: ArrayLike<number>, truth: ArrayLike<number>): { iou: number; mae: number } {
  let [low, high, error] = [0, 0, 0];
  for (let i = 0; i < truth.length; i++) {
    low += Math.min(a[i]!, truth[i]!);
    high += Math.max(a[i]!, truth[i]!);
    error += Math.abs(a[i]! - truth[i]!);
  }
  return { iou: high === 0 ? 1 : low / high, mae: error / truth.length };
}
