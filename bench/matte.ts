// Keys, shapes and the clean-up of a 1280×720 matte on one core; small radii against large ones, which must cost the
// same.
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import {
  cleanUpInPlace,
  frameMatte,
  keyFromPicks,
  makeTables,
  NO_CLEAN_UP,
  ownMatte,
  pictureFromRgba,
  sourceFrame,
  type CleanUp,
  type Layer,
  type Oklab,
} from '../packages/core/src/index.ts';
import { words } from '../packages/server/src/media/words.ts';

const [W, H] = [1280, 720];
const REPEATS = 15;
const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

export interface MatteRow {
  work: string;
  ms: number;
  /** Against the row's partner: the same with a small radius. */
  ratio?: number;
  against?: string;
}

export function benchMattes(): MatteRow[] {
  const raw = execFileSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-i',
      join(import.meta.dirname, '../demo/media/shot-1-platform.mp4'),
      ...words('-frames:v 1 -pix_fmt rgba -f rawvideo -'),
    ],
    { maxBuffer: 1e8 },
  );
  const frame = sourceFrame(pictureFromRgba(raw, W, H), 'rec709', 1, makeTables());
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
  const time = (work: () => unknown) => {
    const start = performance.now();
    work();
    const wall = performance.now() - start;
    return wall;
  };
  /** Two works in turns, so that a busy machine is busy for both. */
  const pair = (a: () => unknown, b: () => unknown): [number, number] => {
    for (let i = 0; i < 4; i++) {
      a();
      b();
    }
    const [left, right]: [number[], number[]] = [[], []];
    for (let i = 0; i < REPEATS; i++) {
      left.push(time(a));
      right.push(time(b));
    }
    return [median(left), median(right)];
  };
  const rows: MatteRow[] = [];
  const compare = (what: string, small: string, large: string, a: () => unknown, b: () => unknown) => {
    const [x, y] = pair(a, b);
    rows.push({ work: `${what}, ${small}`, ms: x }, { work: `${what}, ${large}`, ms: y, ratio: y / x, against: small });
  };
  for (const kind of ['range', 'rgb', 'luma', 'sample'] as const)
    rows.push({
      work: `${kind} key`,
      ms: pair(
        () => ownMatte(frame, key(kind)),
        () => undefined,
      )[0],
    });
  compare(
    'shape, feather',
    '2 px',
    '25 px',
    () => ownMatte(frame, shape(2)),
    () => ownMatte(frame, shape(25)),
  );
  compare('soften', 'σ 2', 'σ 20', clean({ softenPx: 2 }), clean({ softenPx: 20 }));
  compare('edge', '+1 px', '+10 px', clean({ edgePx: 1 }), clean({ edgePx: 10 }));
  compare('edge', '+5 px', '+50 px', clean({ edgePx: 5 }), clean({ edgePx: 50 }));
  compare('quiet', '2 px', '20 px', clean({ quietPx: 2 }), clean({ quietPx: 20 }));
  rows.push({
    work: 'despeckle islands and holes',
    ms: pair(clean({ islandsPx: 80, holesPx: 80 }), () => undefined)[0],
  });
  return rows;
}
