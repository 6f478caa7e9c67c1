// Reads footage and renders back with ffmpeg alone, for comparison.
import { execFileSync } from 'node:child_process';
import { maskDistanceInto } from '../packages/core/src/index.ts';
import { words } from '../packages/server/src/media/words.ts';

/** Frames of a video as 16-bit planes G, B, R per frame, `most` at most; `filters` convert or choose them first. */
export function readGbr16(
  file: string,
  width: number,
  height: number,
  filters?: string,
  most?: number,
): Uint16Array[][] {
  const raw = execFileSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-i',
      file,
      ...(filters ? ['-vf', filters] : []),
      ...(most ? ['-frames:v', `${most}`] : []),
      ...words('-fps_mode passthrough -f rawvideo -pix_fmt gbrp16le -'),
    ],
    { maxBuffer: 2 ** 31 - 1 },
  );
  const n = width * height;
  const frames: Uint16Array[][] = [];
  for (let at = 0; at + n * 6 <= raw.length; at += n * 6)
    frames.push(
      [0, 1, 2].map(
        (c) =>
          new Uint16Array(raw.buffer.slice(raw.byteOffset + at + c * n * 2, raw.byteOffset + at + (c + 1) * n * 2)),
      ),
    );
  return frames;
}

/** All frames of a grey matte, 8 bit; scaled when another size is asked for. */
export function readGrey(file: string, width: number, height: number): Uint8Array[] {
  const raw = execFileSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-i',
      file,
      '-vf',
      `scale=${width}:${height}:flags=area`,
      '-f',
      'rawvideo',
      '-pix_fmt',
      'gray',
      '-',
    ],
    { maxBuffer: 2 ** 31 - 1 },
  );
  return Array.from({ length: raw.length / (width * height) }, (_, i) =>
    raw.subarray(i * width * height, (i + 1) * width * height),
  );
}

/**
 * Two mattes compared: `iou` of the sets α ≥ ½ (Jaccard), `softIou` = Σ min / Σ max, which counts every soft rim too,
 * and the mean absolute error of α.
 */
export function compareMattes(
  a: ArrayLike<number>,
  truth: ArrayLike<number>,
): { iou: number; softIou: number; mae: number } {
  let [low, high, error, both, either] = [0, 0, 0, 0, 0];
  for (let i = 0; i < truth.length; i++) {
    low += Math.min(a[i]!, truth[i]!);
    high += Math.max(a[i]!, truth[i]!);
    error += Math.abs(a[i]! - truth[i]!);
    if (a[i]! >= 0.5 && truth[i]! >= 0.5) both++;
    if (a[i]! >= 0.5 || truth[i]! >= 0.5) either++;
  }
  return { iou: either === 0 ? 1 : both / either, softIou: high === 0 ? 1 : low / high, mae: error / truth.length };
}

/** Pixels of a mask with a neighbour outside it: its outline. */
function outline(alpha: Float32Array, width: number, height: number): Uint8Array {
  const out = new Uint8Array(alpha.length);
  const inside = (x: number, y: number) => x >= 0 && y >= 0 && x < width && y < height && alpha[y * width + x]! >= 0.5;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      // the picture's rim is no edge of the piece
      if (
        inside(x, y) &&
        ((x > 0 && !inside(x - 1, y)) ||
          (x + 1 < width && !inside(x + 1, y)) ||
          (y > 0 && !inside(x, y - 1)) ||
          (y + 1 < height && !inside(x, y + 1)))
      )
        out[y * width + x] = 1;
  return out;
}

/** Mean distance, in pixels, from each matte's outline (α = ½) to the other's, both ways. */
export function edgeErrorPx(alpha: Float32Array, truth: Float32Array, width: number, height: number): number {
  const [ours, theirs] = [outline(alpha, width, height), outline(truth, width, height)];
  const mean = (of: Uint8Array, to: Uint8Array) => {
    const distance = new Float32Array(of.length);
    maskDistanceInto(distance, to, width, height);
    let [sum, n] = [0, 0];
    for (let i = 0; i < of.length; i++)
      if (of[i]) {
        sum += distance[i]!;
        n++;
      }
    return n === 0 ? Infinity : sum / n;
  };
  return (mean(ours, theirs) + mean(theirs, ours)) / 2;
}
