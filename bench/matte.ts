// Keys, shapes and the clean-up of a 1280×720 matte on one core; small radii against large ones, which must cost the
// same.
import * as core from '../packages/core/src/index.ts';
import { matteWork } from './matteWork.ts';

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
  const { key, shape, clean } = matteWork(core);
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
      ms: pair(key(kind), () => undefined)[0],
    });
  compare('shape, feather', '2 px', '25 px', shape(2), shape(25));
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
