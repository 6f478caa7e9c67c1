import type { ChildProcessByStdio } from 'node:child_process';
import { createInterface } from 'node:readline';
import type { Readable, Writable } from 'node:stream';
import { letGiveWay } from '../giveWay.ts';
import { beginInTurn, DECODER_THREADS, FRAMELESS_MS, Hung, runInTurn } from './ffmpegProcess.ts';
import type { Turn } from './turns.ts';

/**
 * What ffmpeg and ffprobe may open: plain files in containers that hold their own data. No playlists, no network, no
 * references to other files.
 */
const INPUT_GUARD = [
  '-protocol_whitelist',
  'file,pipe',
  '-format_whitelist',
  'mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,avi,mxf,mpeg,mpegts,mpegvideo,ivf,nut,yuv4mpegpipe,' +
    'image2,png_pipe,tiff_pipe,jpeg_pipe,exr_pipe,dpx_pipe',
];

/** The last lines ffmpeg wrote, without file paths: they go to users. */
function plainReason(stderr: string): string {
  const lines = stderr
    .split('\n')
    .map((line) =>
      line
        .replace(/\[[^\]]*@ 0x[0-9a-f]+\]\s*/g, '')
        .replace(/^\[(error|fatal|panic)\]\s*/, '')
        // a path ends where what is said of it begins; its names may have spaces
        .replace(/(?<![\w.])\/(?:[^/]+\/)+?[^/]*?(?=: |['"]|\.?$)/g, 'the file')
        .replace(/(?<![\w.])(?:\/[\w.@%+-]+)+\/?/g, 'the file')
        .trim(),
    )
    .filter(Boolean);
  return [...new Set(lines)].slice(-3).join('; ') || 'no reason given';
}
export class FfmpegFailed extends Error {
  constructor(stderr: string) {
    super(plainReason(stderr));
  }
}

/** What comes of some work with it; where that takes too long, it has failed, and is to be ended. */
export async function unlessItHangs<T>(work: Promise<T>, end: () => void, mostMs = FRAMELESS_MS): Promise<T> {
  let timer: NodeJS.Timeout | undefined;
  const hangs = new Promise<never>((_, reject) => {
    timer = setTimeout(() => {
      reject(new FfmpegFailed(new Hung(mostMs).message));
      end();
    }, mostMs);
  });
  try {
    return await Promise.race([work, hangs]);
  } finally {
    clearTimeout(timer);
  }
}

/** Runs it when it is its turn; what hangs has failed like what cannot be read. */
const run: typeof runInTurn = (program, args, how) =>
  runInTurn(program, args, how).catch((error: unknown) => {
    throw error instanceof Hung ? new FfmpegFailed(error.message) : error;
  });

/** Input arguments of a media: guarded, with the rate and first number of an image sequence. */
export function inputArgs(input: {
  path: string;
  startNumber: number | null;
  fps?: { num: number; den: number };
}): string[] {
  const sequence =
    input.startNumber === null
      ? []
      : [
          '-f',
          'image2',
          '-start_number',
          String(input.startNumber),
          ...(input.fps ? ['-framerate', `${input.fps.num}/${input.fps.den}`] : []),
        ];
  return [...INPUT_GUARD, ...DECODER_THREADS, ...sequence, '-i', input.path];
}

export async function ffprobeJson(input: Parameters<typeof inputArgs>[0], args: string[]): Promise<unknown> {
  const out = await collect('ffprobe', ['-v', 'error', ...args, '-of', 'json', ...inputArgs(input)]);
  return JSON.parse(out);
}

async function collect(program: 'ffmpeg' | 'ffprobe', args: string[], signal?: AbortSignal): Promise<string> {
  let [out, err] = ['', ''];
  const code = await run(program, args, {
    signal,
    use: ({ stdout, stderr }) => {
      stdout!.on('data', (d: Buffer) => (out += d.toString()));
      stderr!.on('data', (d: Buffer) => (err = (err + d.toString()).slice(-8000)));
    },
  });
  if (code !== 0) throw new FfmpegFailed(err);
  return out;
}

/** Runs ffmpeg to its end; `onFrame` hears the number of frames done; aborting the signal kills it and rejects. */
export async function runFfmpeg(
  args: string[],
  { onFrame, signal }: { onFrame?: (frames: number) => void; signal?: AbortSignal } = {},
): Promise<number> {
  let err = '';
  let frames = 0;
  const own = ['-v', 'error', '-nostdin', '-y', '-progress', 'pipe:1', '-stats_period', '0.2', ...args];
  const code = await run('ffmpeg', own, {
    signal,
    use: ({ stdout, stderr }) => {
      stdout!.on('data', (d: Buffer) => {
        for (const match of d.toString().matchAll(/^frame=\s*(\d+)/gm)) frames = Number(match[1]);
        onFrame?.(frames);
      });
      stderr!.on('data', (d: Buffer) => (err = (err + d.toString()).slice(-8000)));
    },
  });
  if (code !== 0) throw new FfmpegFailed(err);
  return frames;
}

/**
 * Size and samples of every picture of an input in order, as `1280 × 720 yuv420p`. Throws FfmpegFailed where decoding
 * breaks off.
 */
export async function listPictures(input: string[], signal?: AbortSignal): Promise<string[]> {
  const args = ['-nostdin', '-nostats', '-hide_banner', '-loglevel', 'level+info', '-xerror', ...input];
  const output = ['-map', '0:v:0', '-fps_mode', 'passthrough', '-vf', 'showinfo=checksum=0', '-f', 'null', '-'];
  const pictures: string[] = [];
  let faults = '';
  const code = await run('ffmpeg', [...args, ...output], {
    signal,
    use: ({ stderr }) =>
      createInterface({ input: stderr! }).on('line', (line) => {
        const picture = /\bn: *\d+ pts:.* fmt:(\S+) .* s:(\d+)x(\d+) /.exec(line);
        if (picture) pictures.push(`${picture[2]} × ${picture[3]} ${picture[1]}`);
        else if (/\[(error|fatal|panic)\]/.test(line)) faults = (faults + line + '\n').slice(-8000);
      }),
  });
  if (code !== 0) throw new FfmpegFailed(faults);
  return pictures;
}

/**
 * MD5 of every frame of an input in order, as samples of a pixel format plane by plane, by ffmpeg itself: in its own
 * process, and no pixel comes through a pipe. It tells a frame from a damaged one, not from a forged one. Throws
 * FfmpegFailed where decoding breaks off.
 */
export async function hashFrames(
  input: string[],
  { filters, pixels }: { filters: string; pixels: string },
  signal?: AbortSignal,
): Promise<string[]> {
  const output = ['-map', '0:v:0', '-fps_mode', 'passthrough', '-vf', filters, '-pix_fmt', pixels];
  const hashed = await collect(
    'ffmpeg',
    ['-v', 'error', '-nostdin', ...input, ...output, '-f', 'framehash', '-hash', 'md5', 'pipe:1'],
    signal,
  );
  const frames = hashed.split('\n').filter((line) => line !== '' && !line.startsWith('#'));
  return frames.map((line) => line.slice(line.lastIndexOf(',') + 1).trim());
}

export type Decoder = ChildProcessByStdio<null, Readable, Readable>;
export type Encoder = ChildProcessByStdio<Writable, null, Readable>;
/** A decoder, and its turn: while somebody else waits for one, it is to be ended before long. */
export async function spawnDecoder(args: string[]): Promise<{ decoder: Decoder; turn: Turn }> {
  const { child, turn } = await beginInTurn(['-v', 'error', '-nostdin', ...args], ['ignore', 'pipe', 'pipe']);
  return { decoder: child as Decoder, turn };
}
/** `turn`: of an encoder that is written to for long; it is given back with its end. */
export async function spawnEncoder(args: string[], turn?: Turn): Promise<Encoder> {
  const { child } = await beginInTurn(['-v', 'error', '-y', ...args], ['pipe', 'ignore', 'pipe']);
  // where it could not be begun, that is told otherwise
  if (child.pid === undefined) turn?.giveBack();
  else {
    child.once('exit', () => turn?.giveBack());
    letGiveWay(child.pid);
  }
  return child as Encoder;
}
