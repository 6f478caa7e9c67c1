// Range key + recolour + blend of 1280×720 frames, one core, against ffmpeg's hsvkey + huesaturation on the very same
// frames in the same run: as rendered, with a camera's noise, and of 16 bit. CPU time, not wall time; what reading the
// frames costs is taken off both.
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  compile,
  makeTables,
  NEUTRAL_RECIPE,
  pictureFromRgba,
  renderFrame,
  sourceFrame,
  type CodePicture,
  type Layer,
} from '../packages/core/src/index.ts';
import { words } from '../packages/server/src/media/words.ts';

export interface CoreResult {
  clip: string;
  oursMs: number;
  ffmpegMs: number;
  ratio: number;
}

/** Frames as ffmpeg gives them. */
interface Clip {
  name: string;
  pixels: 'rgba' | 'rgba64le';
  filters?: string[];
}
const CLIPS: readonly Clip[] = [
  { name: '8 bit', pixels: 'rgba' },
  // each frame its own, of every channel, about as a sensor at a high gain: no two neighbours are of one colour
  { name: '8 bit, with noise', pixels: 'rgba', filters: ['-vf', 'format=gbrp,noise=alls=12:allf=t'] },
  { name: '16 bit', pixels: 'rgba64le' },
];
const [W, H] = [1280, 720];
const FRAMES = 24;
const REPEATS = 4;
const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

function pictureOf(bytes: Uint8Array, pixels: Clip['pixels']): CodePicture {
  if (pixels === 'rgba') return pictureFromRgba(bytes, W, H);
  const samples = new Uint16Array(bytes.buffer, bytes.byteOffset, 4 * W * H);
  const channel = (c: number) => Uint16Array.from({ length: W * H }, (_, i) => samples[4 * i + c]!);
  return { width: W, height: H, r: channel(0), g: channel(1), b: channel(2) };
}

export const benchKeyAndRecolour = (): CoreResult[] => CLIPS.map(ofClip);

function ofClip({ name, pixels, filters = [] }: Clip): CoreResult {
  const folder = mkdtempSync(join(tmpdir(), 'mellow-bench-'));
  const raw = join(folder, 'frames.raw');
  const shot = join(import.meta.dirname, '../demo/media/shot-1-platform.mp4');
  const written = ['-frames:v', String(FRAMES), ...filters, '-pix_fmt', pixels, '-f', 'rawvideo', raw];
  execFileSync('ffmpeg', ['-v', 'error', '-i', shot, ...written]);
  const bytes = readFileSync(raw);
  const size = W * H * (pixels === 'rgba' ? 4 : 8);
  const pictures = Array.from({ length: FRAMES }, (_, i) =>
    pictureOf(bytes.subarray(i * size, (i + 1) * size), pixels),
  );
  const key: Layer = {
    id: 'key',
    name: 'Range key',
    picks: [],
    kind: 'range',
    on: true,
    mode: 'add',
    invert: false,
    strength: 1,
    key: {
      hue: { on: true, lo: 175, hi: 205, softLo: 12, softHi: 12 },
      chroma: { on: true, lo: 0.04, hi: 0.2, softLo: 0.03, softHi: 0.03 },
      lightness: { on: true, lo: 0.2, hi: 0.9, softLo: 0.1, softHi: 0.1 },
    },
  };
  const tables = makeTables();
  const shift = { exposureStops: 0, hueDeg: -110, saturation: 1.4, density: 0 };
  const program = compile({ ...NEUTRAL_RECIPE, shift });
  const pass = () => {
    const start = process.cpuUsage();
    for (const picture of pictures)
      renderFrame(sourceFrame(picture, 'rec709', 1, tables), [{ layers: [key], program }], tables);
    const { user, system } = process.cpuUsage(start);
    return (user + system) / 1000 / FRAMES;
  };
  pass();
  const input = [
    ...words(`-v error -threads 1 -filter_threads 1 -f rawvideo -pix_fmt ${pixels} -video_size ${W}x${H}`),
    ...words('-stream_loop 3 -i'),
    raw,
  ];
  const cpu = (filters: string[]) => {
    const { stderr } = spawnSync(
      'ffmpeg',
      ['-benchmark', ...input.map((a) => (a === 'error' ? 'info' : a)), ...filters, '-f', 'null', '-'],
      { encoding: 'utf8' },
    );
    const [, user, system] = /utime=([\d.]+)s stime=([\d.]+)s/.exec(stderr)!;
    return ((Number(user) + Number(system)) * 1000) / (FRAMES * 4);
  };
  const ours: number[] = [];
  const theirs: number[] = [];
  // taken in turns, so that a busy machine is busy for both
  for (let i = 0; i < REPEATS; i++) {
    ours.push(pass());
    theirs.push(
      cpu(['-vf', 'hsvkey=hue=180:sat=0.6:val=0.5:similarity=0.3:blend=0.1,huesaturation=hue=-110']) - cpu([]),
    );
  }
  rmSync(folder, { recursive: true, force: true });
  return { clip: name, oursMs: median(ours), ffmpegMs: median(theirs), ratio: median(ours) / median(theirs) };
}
