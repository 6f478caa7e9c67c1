// From developed frames to a camera file, and the mattes.
import { execFileSync, spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync, renameSync } from 'node:fs';
import { join } from 'node:path';
import { developFrame, LENS_SOFTNESS, soften, type Size } from './develop.ts';
import { HEIGHT, WIDTH, type DemoShot } from './shots.ts';
import { words } from '../../packages/server/src/media/words.ts';

const PIXELS = WIDTH * HEIGHT;
const FULL: Size = { width: WIDTH, height: HEIGHT };

/** A grey picture of so many pixels, 8 bit. */
export function readGrey(file: string, pixels: number): Buffer {
  return execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 'rawvideo', '-pix_fmt', 'gray', '-'], {
    maxBuffer: pixels + 1024,
  });
}

/** Encodes frames to a file that appears under its name only when it is complete. */
export async function encode(
  args: string[],
  file: string,
  frames: Iterable<Uint8Array>,
  { width, height }: Size = FULL,
): Promise<void> {
  const part = file.replace(/(\.\w+)$/, '.part$1');
  const ffmpeg = spawn(
    'ffmpeg',
    ['-v', 'error', '-y', '-f', 'rawvideo', '-video_size', `${width}x${height}`, ...args, part],
    { stdio: ['pipe', 'inherit', 'inherit'] },
  );
  const done = once(ffmpeg, 'close');
  for (const frame of frames) if (!ffmpeg.stdin.write(frame)) await once(ffmpeg.stdin, 'drain');
  ffmpeg.stdin.end();
  const [code] = (await done) as [number];
  if (code !== 0) throw new Error(`ffmpeg ended with ${code}`);
  renameSync(part, file);
}

/** What a camera of the demo writes: H.264, 10 bit, 4:2:2, BT.709, limited range, from 16-bit R′G′B′. */
export const cameraFile = (shot: DemoShot): string[] => [
  ...words('-pix_fmt rgb48le -framerate'),
  String(shot.fps),
  ...words('-i - -vf'),
  ...words(
    'setparams=range=pc:color_primaries=bt709:color_trc=bt709:colorspace=gbr,zscale=matrixin=gbr:' +
      'rangein=full:primariesin=709:transferin=709:matrix=709:range=limited:primaries=709:' +
      'transfer=709,format=yuv422p10le',
  ),
  ...words('-c:v libx264 -preset slow -crf 17 -maxrate 13M -bufsize 13M -g 24 -color_primaries bt709'),
  ...words('-color_trc bt709 -colorspace bt709 -color_range tv'),
];

/** Writes demo/media/NAME.mp4 (H.264, 10 bit, 4:2:2, BT.709 limited) and demo/truth/NAME.PIECE.mkv (FFV1 grey). */
export async function finishShot(shot: DemoShot, dir: string, variant: string): Promise<void> {
  const media = join(import.meta.dirname, '..', variant ? 'truth' : 'media');
  const truth = join(import.meta.dirname, '..', 'truth');
  mkdirSync(media, { recursive: true });
  mkdirSync(truth, { recursive: true });
  const rate = String(shot.fps);
  function* pictures() {
    for (let f = 0; f < shot.frames; f++) yield new Uint8Array(developFrame(shot, dir, f, FULL, shot.grain).buffer);
  }
  await encode(
    [...cameraFile(shot), '-timecode', `0${shot.seed % 9}:00:00:00`],
    join(media, `${shot.name}${variant}.mp4`),
    pictures(),
  );
  if (variant) return;
  for (const piece of shot.pieces) {
    function* mattes() {
      for (let f = 0; f < shot.frames; f++) {
        const sum = new Float32Array(PIXELS);
        for (let p = 0; p < shot.passes; p++) {
          const grey = readGrey(join(dir, `matte-${piece.name}-${String(f).padStart(3, '0')}-${p}.png`), PIXELS);
          for (let i = 0; i < PIXELS; i++) sum[i] = sum[i]! + grey[i]! / shot.passes;
        }
        // the same lens softness as the picture has
        yield Uint8Array.from(soften(sum, FULL, LENS_SOFTNESS), Math.round);
      }
    }
    await encode(
      ['-pix_fmt', 'gray', '-framerate', rate, '-i', '-', '-c:v', 'ffv1', '-level', '3', '-g', '1'],
      join(truth, `${shot.name}.${piece.name}.mkv`),
      mattes(),
    );
  }
}
