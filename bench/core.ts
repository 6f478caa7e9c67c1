// Range key + recolour + blend of a 1280×720 frame, 8 bit in and out, one core, against ffmpeg's hsvkey + huesaturation
// on the very same frames in the same run. CPU time, not wall time; what reading the frames costs is taken off both.
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
  type Layer,
} from '../packages/core/src/index.ts';
import { words } from '../packages/server/src/media/words.ts';

export interface CoreResult {
  oursMs: number;
  ffmpegMs: number;
  ratio: number;
}

const FRAMES = 24;
const REPEATS = 4;
const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

export function benchKeyAndRecolour(): CoreResult {
  const folder = mkdtempSync(join(tmpdir(), 'mellow-bench-'));
  const raw = join(folder, 'frames.rgba');
  const shot = join(import.meta.dirname, '../demo/media/shot-1-platform.mp4');
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-i',
    shot,
    '-frames:v',
    String(FRAMES),
    '-pix_fmt',
    'rgba',
    '-f',
    'rawvideo',
    raw,
  ]);
  const bytes = readFileSync(raw);
  const size = 1280 * 720 * 4;
  const pictures = Array.from({ length: FRAMES }, (_, i) =>
    pictureFromRgba(bytes.subarray(i * size, (i + 1) * size), 1280, 720),
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
    ...words('-v error -threads 1 -filter_threads 1 -f rawvideo -pix_fmt rgba -video_size 1280x720'),
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
  return { oursMs: median(ours), ffmpegMs: median(theirs), ratio: median(ours) / median(theirs) };
}
