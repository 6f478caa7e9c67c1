// The stills that recolours are judged by: what a camera saw, the true matte, and the piece really in another colour.
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { makeTables, sourceFrame, type LinearPlanes, type SourceFrame } from '../../packages/core/src/index.ts';
import { halvedMean } from '../../packages/core/src/testing/mattes.ts';
import { words } from '../../packages/server/src/media/words.ts';
import { PAINTS, SHOTS, TRUTH_FRAMES, TRUTH_SIZE } from '../generator/shots.ts';

const truth = join(import.meta.dirname, '../truth');
const { width, height } = TRUTH_SIZE;
const PIXELS = width * height;
export const TABLES = makeTables();

function read(file: string, args: string[], bytes: number): Buffer[] {
  const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', join(truth, file), ...args, '-f', 'rawvideo', '-'], {
    maxBuffer: 2 ** 30,
  });
  return Array.from({ length: raw.length / bytes }, (_, k) => raw.subarray(k * bytes, (k + 1) * bytes));
}
/** R′G′B′ of 16 bit, as the application decodes: BT.709 limited 4:2:2 through zimg, or full R′G′B′ as it is. */
function pictures(file: string, isCamera: boolean): SourceFrame[] {
  const convert = isCamera
    ? 'zscale=matrixin=709:rangein=limited:matrix=gbr:range=full:filter=bicubic,format=gbrp16le'
    : 'format=gbrp16le';
  return read(file, ['-vf', convert, '-pix_fmt', 'gbrp16le'], PIXELS * 6).map((raw) => {
    const plane = (k: number) =>
      new Uint16Array(raw.buffer.slice(raw.byteOffset + k * PIXELS * 2, raw.byteOffset + (k + 1) * PIXELS * 2));
    return sourceFrame({ width, height, g: plane(0), b: plane(1), r: plane(2) }, 'rec709', 1, TABLES);
  });
}
function mattes(file: string): Float32Array[] {
  const chosen = TRUTH_FRAMES.map((f) => `eq(n\\,${f})`).join('+');
  const args = ['-vf', `select=${chosen}`, ...words('-fps_mode passthrough -pix_fmt gray')];
  return read(file, args, 4 * PIXELS).map((raw) =>
    halvedMean(
      Float32Array.from(raw, (v) => v / 255),
      2 * width,
      2 * height,
    ),
  );
}

/** One shot's piece in one paint, on a few frames. */
export interface Case {
  name: string;
  shot: string;
  piece: string;
  paint: string;
  /** A colour that no method was tuned on. */
  isForJudging: boolean;
  frames: { source: SourceFrame; alpha: Float32Array; truth: LinearPlanes }[];
}
export const STILL_SIZE = TRUTH_SIZE;

/** Every piece of every shot in every paint but its own. */
export function* cases(): Generator<Case> {
  for (const shot of SHOTS) {
    const seen = pictures(`recolour/${shot.name}.mkv`, true);
    for (const { name: piece } of shot.pieces) {
      const own = mattes(`${shot.name}.${piece}.mkv`);
      const paints = Object.keys(PAINTS[piece]!).slice(1);
      for (const [k, paint] of paints.entries()) {
        const painted = pictures(`recolour/${shot.name}.${piece}.${paint.replace(' ', '-')}.mkv`, false);
        yield {
          name: `${shot.name.slice(5)} ${piece} → ${paint}`,
          shot: shot.name,
          piece,
          paint,
          isForJudging: k >= paints.length - 2,
          frames: seen.map((source, f) => ({ source, alpha: own[f]!, truth: painted[f]!.linear() })),
        };
      }
    }
  }
}
