import { labFromLinear709 } from '@mellow/core';
import { expect, it } from 'vitest';
import { filmedColours } from './filmedColours.ts';

const rows = (...values: object[]) => values.map((value) => ({ value, revision: 1 }));
const half = { matrix: [0.5, 0, 0, 0, 0.5, 0, 0, 0, 0.5] };
const document = {
  shots: rows({ id: 's1', light: null }, { id: 's2', light: half }, { id: 's3', light: null }),
  sightings: rows(
    { id: 'x1', pieceId: 'p', shotId: 's1' },
    { id: 'x2', pieceId: 'p', shotId: 's2' },
    { id: 'x3', pieceId: 'p', shotId: 's3' },
    { id: 'y1', pieceId: 'q', shotId: 's1' },
  ),
} as never;
const measured = (sightingId: string, ...before: [number, number, number][]) =>
  ({ sightingId, colourwayId: 'c', frames: before.map((meanLinear) => ({ before: { meanLinear } })) }) as never;

it('is the mean of the source over a shot, back in the reference light; only where it was measured', () => {
  const found = filmedColours(
    document,
    [measured('x1', [0.2, 0.1, 0.1], [0.4, 0.1, 0.1]), measured('x2', [0.15, 0.05, 0.05]), measured('x3')],
    'p',
  );
  expect(found.map((f) => f.shot.id)).toEqual(['s1', 's2']);
  const wanted = labFromLinear709([0.3, 0.1, 0.1]);
  for (const { lab } of found)
    expect([lab.L, lab.a, lab.b]).toEqual([wanted.L, wanted.a, wanted.b].map((v) => expect.closeTo(v, 6)));
  expect(filmedColours(document, [], 'p')).toEqual([]);
});
