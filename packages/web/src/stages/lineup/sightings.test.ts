import { expect, it } from 'vitest';
import type { Piece, ProjectDocument, SightingMeasurements } from '@mellow/contract';
import { labFromLinear709 } from '@mellow/core';
import { deltaERows, mapPoints, membersIn, pieceRow, wholeRows } from './sightings.ts';

const colour = (r: number, g: number, b: number) => ({
  meanLinear: [r, g, b] as [number, number, number],
  lab: labFromLinear709([r, g, b]),
});
const measured = (sightingId: string, frames: number[], after: ReturnType<typeof colour>) =>
  ({
    sightingId,
    colourwayId: 'c',
    frames: frames.map((frame) => ({ frame, after })),
  }) as unknown as SightingMeasurements;
const rows = <T>(...values: T[]) => values.map((value) => ({ value, revision: 1 }));
const document = {
  shots: rows({ id: 's1', name: 'Bar' }, { id: 's2', name: 'Bar' }, { id: 's3', name: 'Street' }),
  sightings: rows({ id: 'x1', pieceId: 'p', shotId: 's1' }, { id: 'x2', pieceId: 'p', shotId: 's2' }),
  requirements: rows({ pieceId: 'p', colourwayId: 'c', illuminant: 'D65', lab: labFromLinear709([0.5, 0.1, 0.1]) }),
} as unknown as ProjectDocument;
const piece = { id: 'p', name: 'Cup' } as unknown as Piece;

it('gives a row of all shots, sighted or not, with how far the sightings lie apart', () => {
  const [same, darker] = [colour(0.5, 0.1, 0.1), colour(0.25, 0.05, 0.05)];
  const row = pieceRow(document, [measured('x1', [0], same), measured('x2', [0], darker)], 'c', piece);
  expect(row.sightings.map((s) => [s.shot.id, s.sighting?.id, s.measured?.sightingId])).toEqual([
    ['s1', 'x1', 'x1'],
    ['s2', 'x2', 'x2'],
    ['s3', undefined, undefined],
  ]);
  expect(row.spread).toBeGreaterThan(5);
  expect(pieceRow(document, [measured('x1', [0], same)], 'c', piece).spread).toBeUndefined();
  expect(pieceRow(document, [], 'other', piece).requirement).toBeUndefined();
});

it('puts shots of the same name and of different lengths in one chart, frame by frame', () => {
  const same = colour(0.5, 0.1, 0.1);
  const row = pieceRow(
    document,
    [measured('x1', [5, 0], same), measured('x2', [5], colour(0.4, 0.1, 0.1))],
    'c',
    piece,
  );
  const chart = deltaERows(row);
  expect(chart.map((r) => Object.keys(r).sort())).toEqual([
    ['frame', 's1'],
    ['frame', 's1', 's2'],
  ]);
  expect(chart[0]).toEqual({ frame: 0, s1: expect.closeTo(0, 6) });
  expect(chart[1]!.s2).toBeGreaterThan(1);
});

it('maps measured colours, carried back to the reference light, and required ones', () => {
  const red = colour(0.5, 0.1, 0.1);
  const half = { how: 'hand', matrix: [0.5, 0, 0, 0, 0.5, 0, 0, 0, 0.5] };
  const darkShot = rows({ id: 's1', name: 'Bar', light: half }, { id: 's2', name: 'Street' });
  const inDark = { ...document, shots: darkShot } as unknown as ProjectDocument;
  const row = pieceRow(inDark, [measured('x1', [0], colour(0.25, 0.05, 0.05))], 'c', piece);
  const points = mapPoints([row]);
  expect(points.map((p) => [p.name, p.isRequired])).toEqual([
    ['Cup, Bar', false],
    ['Cup, required', true],
  ]);
  for (const p of points) expect([p.a, p.b]).toEqual([expect.closeTo(red.lab.a, 6), expect.closeTo(red.lab.b, 6)]);
  expect(mapPoints([pieceRow(document, [], 'other', piece)])).toEqual([]);
});

it('shows a piece and its parts as one row, the farthest off first in each shot', () => {
  const parted = {
    ...document,
    pieces: rows(
      { id: 'p', name: 'Coat', partOf: null },
      { id: 'q', name: 'Sleeves', partOf: 'p' },
      { id: 'z', partOf: null },
    ),
    sightings: rows(
      { id: 'x1', pieceId: 'p', shotId: 's1', layers: [{}] },
      { id: 'y1', pieceId: 'q', shotId: 's1', layers: [{}] },
      { id: 'y2', pieceId: 'q', shotId: 's2', layers: [] },
    ),
    requirements: rows(
      ...['p', 'q'].map((pieceId) => ({
        pieceId,
        colourwayId: 'c',
        illuminant: 'D65',
        lab: labFromLinear709([0.5, 0.1, 0.1]),
      })),
    ),
  } as unknown as ProjectDocument;
  const all = wholeRows(
    parted,
    [measured('x1', [0], colour(0.5, 0.1, 0.1)), measured('y1', [0], colour(0.1, 0.5, 0.1))],
    'c',
  );
  expect(all.map((row) => [row.piece.id, row.parts.map((p) => p.piece.id)])).toEqual([
    ['p', ['q']],
    ['z', []],
  ]);
  expect(membersIn(all[0]!, 0).map((m) => m.row.piece.id)).toEqual(['q', 'p']);
  expect(membersIn(all[0]!, 1)).toEqual([]);
});
