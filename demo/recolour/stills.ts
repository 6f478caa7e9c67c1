// The stills that recolours are judged by: what a camera saw, the true matte, and the piece really in another colour.
import { execFileSync } from 'node:child_process';
import { join, resolve } from 'node:path';
import { makeTables, sourceFrame, type LinearPlanes, type SourceFrame } from '../../packages/core/src/index.ts';
import { PAINTS, SHOTS, TRUTH_SIZE } from '../generator/shots.ts';

const truth = join(import.meta.dirname, '../truth');
const { width, height } = TRUTH_SIZE;
const PIXELS = width * height;
export const TABLES = makeTables();

function read(file: string, args: string[], bytes: number): Buffer[] {
  const raw = execFileSync(
    'ffmpeg',
    ['-v', 'error', '-i', resolve(truth, file), ...args, '-fps_mode', 'passthrough', '-f', 'rawvideo', '-'],
    {
      maxBuffer: 2 ** 30,
    },
  );
  return Array.from({ length: raw.length / bytes }, (_, k) => raw.subarray(k * bytes, (k + 1) * bytes));
}
const chosen = (frames: readonly number[]) => `select='${frames.map((f) => `eq(n,${f})`).join('+')}'`;
const YUV = 'zscale=matrixin=709:rangein=limited:matrix=gbr:range=full:filter=bicubic,';
/** A camera's BT.709 limited 4:2:2 as R′G′B′ of 16 bit, as the application decodes it: through zimg. */
export const cameraPictures = (file: string, frames: readonly number[]): SourceFrame[] => pictures(file, YUV, frames);
/** Full R′G′B′ of 16 bit. */
function pictures(file: string, convert: string, frames: readonly number[]): SourceFrame[] {
  const filter = `${chosen(frames)},${convert}format=gbrp16le`;
  return read(file, ['-vf', filter, '-pix_fmt', 'gbrp16le'], PIXELS * 6).map((raw) => {
    const plane = (k: number) =>
      new Uint16Array(raw.buffer.slice(raw.byteOffset + k * PIXELS * 2, raw.byteOffset + (k + 1) * PIXELS * 2));
    const codes = { width, height, g: plane(0), b: plane(1), r: plane(2) };
    return sourceFrame(codes, 'rec709', 1, TABLES, { sharesChroma: convert === YUV });
  });
}
const mattes = (file: string, frames: readonly number[]): Float32Array[] =>
  read(file, ['-vf', chosen(frames), '-pix_fmt', 'gray16le'], 2 * PIXELS).map((raw) =>
    Float32Array.from({ length: PIXELS }, (_, i) => raw.readUInt16LE(2 * i) / 65535),
  );

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

/** Every piece of every shot in every paint but its own, or in those alone that are for judging; on so many frames. */
export function* cases({ judgedOnly = false, frames = [0, 1, 2, 3] } = {}): Generator<Case> {
  for (const shot of SHOTS) {
    const seen = cameraPictures(`recolour/${shot.name}.mkv`, frames);
    for (const { name: piece } of shot.pieces) {
      const own = mattes(`recolour/${shot.name}.${piece}.matte.mkv`, frames);
      const paints = Object.keys(PAINTS[piece]!).slice(1);
      for (const [k, paint] of paints.entries()) {
        const isForJudging = k >= paints.length - 2;
        if (judgedOnly && !isForJudging) continue;
        const painted = pictures(`recolour/${shot.name}.${piece}.${paint.replace(' ', '-')}.mkv`, '', frames);
        yield {
          name: `${shot.name.slice(5)} ${piece} → ${paint}`,
          shot: shot.name,
          piece,
          paint,
          isForJudging,
          frames: seen.map((source, f) => ({ source, alpha: own[f]!, truth: painted[f]!.linear() })),
        };
      }
    }
  }
}

/**
 * The same pieces without a camera: of each its paints in turn, the true picture in one as what is recoloured to the
 * next. What is left then is the method's own.
 */
export function* cleanCases(all: readonly Case[]): Generator<Case> {
  for (const [k, from] of all.entries()) {
    const own = all.filter((c) => c.shot === from.shot && c.piece === from.piece);
    const to = own[(own.indexOf(from) + 1) % own.length]!;
    const frames = to.frames.map((f, q) => ({ ...f, source: clean(from.frames[q]!.truth) }));
    yield { ...to, name: `${all[k]!.name} → ${to.paint}`, isForJudging: from.isForJudging && to.isForJudging, frames };
  }
}
/** A picture of linear light as a frame of 16-bit codes. */
function clean(picture: LinearPlanes): SourceFrame {
  const of = (plane: Float32Array) =>
    Uint16Array.from(plane, (v) => Math.round(Math.min(Math.max(v, 0), 1) ** (1 / 2.4) * 65535));
  const codes = { width, height, r: of(picture.r), g: of(picture.g), b: of(picture.b) };
  return sourceFrame(codes, 'rec709', 1, TABLES);
}
