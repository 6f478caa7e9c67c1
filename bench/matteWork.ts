// A 1280×720 frame, its matte, and the work on mattes that is timed, by the core that is given.
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import type * as today from '../packages/core/src/index.ts';
import type { CleanUp, Layer, Oklab } from '../packages/core/src/index.ts';
import { words } from '../packages/server/src/media/words.ts';

export type Core = typeof today;
const [W, H] = [1280, 720];

export function matteWork(core: Core) {
  const { cleanUpInPlace, frameMatte, keyFromPicks, makeTables, NO_CLEAN_UP, ownMatte, pictureFromRgba } = core;
  const shot = join(import.meta.dirname, '../demo/media/shot-1-platform.mp4');
  const asRgba = words('-frames:v 1 -pix_fmt rgba -f rawvideo -');
  const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', shot, ...asRgba], { maxBuffer: 1e8 });
  const frame = core.sourceFrame(pictureFromRgba(raw, W, H), 'rec709', 1, makeTables());
  const lab = frame.oklab();
  frame.matteSource.encoded('balanced');
  // one pick on the suitcase's front, as a hand would make it
  const samples: Oklab[] = [430, 455, 480, 505, 520].flatMap((y) =>
    [440, 460, 480, 500, 520].map((x) => ({ L: lab.L[y * W + x]!, a: lab.a[y * W + x]!, b: lab.b[y * W + x]! })),
  );
  const layer = { id: 'layer', name: 'Layer', on: true, mode: 'add' as const, invert: false, strength: 1 };
  const picks = [{ sign: 'add' as const, samples }];
  const key = (kind: 'range' | 'rgb' | 'luma' | 'sample'): Layer =>
    ({ ...layer, kind, picks: [], key: keyFromPicks(kind, null, picks, 'rec709') }) as Layer;
  const shape = (outerPx: number): Layer => ({
    ...layer,
    kind: 'shape',
    geometry: { form: 'ellipse', cx: 415, cy: 480, width: 400, height: 480, turnDeg: 10 },
    feather: { innerPx: 1, outerPx, falloff: 'smooth' },
  });
  const matte = frameMatte(frame, [key('range'), { ...shape(1), mode: 'within' }]);
  const clean = (change: Partial<CleanUp>) => () =>
    cleanUpInPlace(matte.slice(), W, H, { ...NO_CLEAN_UP, ...change }, 1, () => lab.L);
  return {
    key: (kind: 'range' | 'rgb' | 'luma' | 'sample') => () => ownMatte(frame, key(kind)),
    shape: (outerPx: number) => () => ownMatte(frame, shape(outerPx)),
    clean,
  };
}
