// From rendered passes to a camera file: average the passes, expose, bloom, film curve, grain, encode. And the mattes.
import { execFileSync, spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync, renameSync } from 'node:fs';
import { join } from 'node:path';
import { seededRandom } from '../../packages/core/src/testing/mattes.ts';
import { HEIGHT, WIDTH, type DemoShot } from './shots.ts';
import { words } from '../../packages/server/src/media/words.ts';

const PIXELS = WIDTH * HEIGHT;

function readExr(file: string): Float32Array[] {
  const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 'rawvideo', '-pix_fmt', 'gbrpf32le', '-'], {
    maxBuffer: PIXELS * 12 + 1024,
  });
  const plane = (i: number) =>
    new Float32Array(raw.buffer.slice(raw.byteOffset + i * PIXELS * 4, raw.byteOffset + (i + 1) * PIXELS * 4));
  return [plane(2), plane(0), plane(1)];
}
function readGrey(file: string): Buffer {
  return execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 'rawvideo', '-pix_fmt', 'gray', '-'], {
    maxBuffer: PIXELS + 1024,
  });
}

/** Repeated box blur, in place, a cheap stand-in for a wide Gaussian. */
function boxBlur(plane: Float32Array, radius: number): void {
  const line = new Float32Array(Math.max(WIDTH, HEIGHT));
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
    for (let y = 0; y < HEIGHT; y++) pass(y * WIDTH, 1, WIDTH);
    for (let x = 0; x < WIDTH; x++) pass(x, WIDTH, HEIGHT);
  }
}

/** Straight to 0.6, then a soft shoulder that reaches 1 at about four times white: keeps hue in the mid tones. */
function filmCurve(x: number): number {
  const knee = 0.6;
  return x <= knee ? x : knee + (1 - knee) * (1 - Math.exp(-(x - knee) / (1 - knee)));
}

/** Camera lenses are not pixel-sharp: a 3×3 binomial blur mixed in by `amount`. */
function soften(plane: Float32Array, amount: number): Float32Array {
  const out = new Float32Array(plane);
  for (let y = 1; y < HEIGHT - 1; y++)
    for (let x = 1; x < WIDTH - 1; x++) {
      const i = y * WIDTH + x;
      const side = plane[i - 1]! + plane[i + 1]! + plane[i - WIDTH]! + plane[i + WIDTH]!;
      const corner = plane[i - WIDTH - 1]! + plane[i - WIDTH + 1]! + plane[i + WIDTH - 1]! + plane[i + WIDTH + 1]!;
      out[i] = plane[i]! * (1 - amount) + amount * (plane[i]! * 0.25 + side * 0.125 + corner * 0.0625);
    }
  return out;
}

function developFrame(shot: DemoShot, dir: string, frame: number): Uint16Array {
  const id = String(frame).padStart(3, '0');
  const rgb = [0, 1, 2].map(() => new Float32Array(PIXELS));
  for (let pass = 0; pass < shot.passes; pass++)
    readExr(join(dir, `light-${id}-${pass}.exr`)).forEach((plane, c) => {
      const sum = rgb[c]!;
      for (let i = 0; i < PIXELS; i++) sum[i] = sum[i]! + Math.min(plane[i]!, 8) / shot.passes;
    });
  const random = seededRandom(shot.seed * 7919 + frame);
  const gauss = () => Math.sqrt(-2 * Math.log(random() + 1e-12)) * Math.cos(2 * Math.PI * random());
  const grainOf = () => soften(Float32Array.from({ length: PIXELS }, gauss), 0.8);
  const luma = grainOf();
  const out = new Uint16Array(PIXELS * 3);
  const gain = 2 ** shot.exposureStops;
  rgb.forEach((raw, c) => {
    const plane = soften(raw, 0.6);
    const bloom = Float32Array.from(plane, (v) => Math.max(v * gain - 0.8, 0));
    boxBlur(bloom, 9);
    const own = grainOf();
    for (let i = 0; i < PIXELS; i++) {
      const x = (i % WIDTH) / WIDTH - 0.5;
      const y = Math.floor(i / WIDTH) / HEIGHT - 0.5;
      const vignette = 1 - 0.32 * (x * x + y * y);
      const exposed = (plane[i]! * gain + 0.25 * bloom[i]!) * vignette + 0.0012;
      const code = filmCurve(exposed) ** (1 / 2.4); // ITU-R BT.1886 display, inverted
      const grain = shot.grain * (1.25 - code) * (luma[i]! + 0.5 * own[i]!) * (c === 2 ? 1.3 : 1);
      out[i * 3 + c] = Math.round(Math.min(Math.max(code + grain, 0), 1) * 65535);
    }
  });
  return out;
}

/** Encodes frames to a file that appears under its name only when it is complete. */
async function encode(args: string[], file: string, frames: Iterable<Uint8Array>): Promise<void> {
  const part = file.replace(/(\.\w+)$/, '.part$1');
  const ffmpeg = spawn(
    'ffmpeg',
    ['-v', 'error', '-y', '-f', 'rawvideo', '-video_size', `${WIDTH}x${HEIGHT}`, ...args, part],
    { stdio: ['pipe', 'inherit', 'inherit'] },
  );
  const done = once(ffmpeg, 'close');
  for (const frame of frames) if (!ffmpeg.stdin.write(frame)) await once(ffmpeg.stdin, 'drain');
  ffmpeg.stdin.end();
  const [code] = (await done) as [number];
  if (code !== 0) throw new Error(`ffmpeg ended with ${code}`);
  renameSync(part, file);
}

/** Writes demo/media/NAME.mp4 (H.264, 10 bit, 4:2:2, BT.709 limited) and demo/truth/NAME.PIECE.mkv (FFV1 grey). */
export async function finishShot(shot: DemoShot, dir: string, variant: string): Promise<void> {
  const media = join(import.meta.dirname, '..', variant ? 'truth' : 'media');
  const truth = join(import.meta.dirname, '..', 'truth');
  mkdirSync(media, { recursive: true });
  mkdirSync(truth, { recursive: true });
  const rate = String(shot.fps);
  function* pictures() {
    for (let f = 0; f < shot.frames; f++) yield new Uint8Array(developFrame(shot, dir, f).buffer);
  }
  await encode(
    [
      '-pix_fmt',
      'rgb48le',
      '-framerate',
      rate,
      ...words('-i - -vf'),
      ...words(
        'setparams=range=pc:color_primaries=bt709:color_trc=bt709:colorspace=gbr,zscale=matrixin=gbr:' +
          'rangein=full:primariesin=709:transferin=709:matrix=709:range=limited:primaries=709:' +
          'transfer=709,format=yuv422p10le',
      ),
      ...words('-c:v libx264 -preset slow -crf 17 -maxrate 13M -bufsize 13M -g 24 -color_primaries bt709'),
      ...words('-color_trc bt709 -colorspace bt709 -color_range tv -timecode'),
      `0${shot.seed % 9}:00:00:00`,
    ],
    join(media, `${shot.name}${variant}.mp4`),
    pictures(),
  );
  if (variant) return;
  for (const piece of shot.pieces) {
    function* mattes() {
      for (let f = 0; f < shot.frames; f++) {
        const sum = new Float32Array(PIXELS);
        for (let p = 0; p < shot.passes; p++) {
          const grey = readGrey(join(dir, `matte-${piece.name}-${String(f).padStart(3, '0')}-${p}.png`));
          for (let i = 0; i < PIXELS; i++) sum[i] = sum[i]! + grey[i]! / shot.passes;
        }
        // the same lens softness as the picture has
        yield Uint8Array.from(soften(sum, 0.6), Math.round);
      }
    }
    await encode(
      ['-pix_fmt', 'gray', '-framerate', rate, '-i', '-', '-c:v', 'ffv1', '-level', '3', '-g', '1'],
      join(truth, `${shot.name}.${piece.name}.mkv`),
      mattes(),
    );
  }
}
