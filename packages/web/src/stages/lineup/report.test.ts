import Papa from 'papaparse';
import { expect, it } from 'vitest';
import type { SightingMeasurements } from '@mellow/contract';
import { labFromLinear709, readMeasurementFile, type Lab } from '@mellow/core';
import { documentWith, shape, stored } from '../../commands/testing.ts';
import { reportCgats, reportCsv } from './report.ts';

const light = (r: number, g: number, b: number) => ({
  meanLinear: [r, g, b] as [number, number, number],
  lab: labFromLinear709([r, g, b]),
});
const red = light(0.5, 0.1, 0.1);
const shares = { pixels: 100, coverage: 0.9, clippedShare: 0.02, resultClippedShare: 0.31 };
const measured = (...frames: ReturnType<typeof light>[]) =>
  [
    {
      sightingId: 'x',
      colourwayId: 'c',
      fresh: true,
      measuredFrames: frames.length,
      frames: frames.map((after, frame) => ({ frame, before: red, after, ...shares })),
    },
  ] as unknown as SightingMeasurements[];
const requiring = (lab: Lab, name = 'Marigold') => ({
  ...documentWith([shape('a')]),
  requirements: stored({
    id: 'r',
    pieceId: 'cup',
    colourwayId: 'c',
    name,
    lab,
    illuminant: 'D65',
    tolerance: null,
    of: 'mean',
  }),
});
const rowsOf = (csv: string) =>
  Papa.parse<Record<string, string>>(csv.replace(/^\ufeff/, ''), { header: true, skipEmptyLines: true }).data;

it('has a row for each isolated piece, with what was required, measured and judged', () => {
  const csv = reportCsv(requiring(red.lab) as never, measured(red, red), []);
  expect(csv.startsWith('\ufeffColourway,Piece,Shot,')).toBe(true);
  const [row, ...others] = rowsOf(csv);
  expect(others).toEqual([]);
  expect(row).toMatchObject({
    Colourway: 'A',
    Piece: 'Cup',
    Shot: 'Bar',
    'Required colour': 'Marigold',
    'Required L*': red.lab.L.toFixed(2),
    'Tolerance ΔE00': '2.00',
    'Measured a*': red.lab.a.toFixed(2),
    ΔE00: '0.00',
    Stands: 'matches',
    'Drift ΔE00': '0.00',
    'Selected %': '90.0',
    'Clipped by the recolour %': '31.0',
    'Frames measured': '2',
    'Up to date': 'yes',
    Trimmed: 'no',
    State: 'rough',
  });
});
it('leaves empty what is not known', () => {
  const [row] = rowsOf(reportCsv(documentWith([shape('a')]), [], []));
  expect(row).toMatchObject({
    'Required colour': '',
    ΔE00: '',
    Stands: '',
    'Frames measured': '0',
    'Up to date': 'no',
  });
  expect(rowsOf(reportCsv(documentWith(undefined), [], []))).toEqual([]);
});
it('keeps a name that begins like a formula, quotes and commas in it, a name', () => {
  const csv = reportCsv(requiring(red.lab, '=SUM(1,2) "x"') as never, measured(red), []);
  expect(rowsOf(csv)[0]!['Required colour']).toBe(`'=SUM(1,2) "x"`);
});
it('as CGATS.17 holds the required and the measured colours, to be read again', () => {
  const text = reportCgats(requiring(red.lab) as never, measured(light(0.25, 0.05, 0.05)), '2026-11-27');
  const samples = readMeasurementFile(text);
  expect(samples.map((s) => s.name)).toEqual(['Cup, A, required: Marigold', 'Cup, A, Bar']);
  expect(samples[0]!.lab.L).toBeCloseTo(red.lab.L, 3);
  expect(samples[1]!.lab.L).toBeLessThan(samples[0]!.lab.L);
});

it('says in its last columns what was said of it in review', () => {
  const said = { sightingId: 'x', colourwayId: 'c', decision: 'sent back', holds: true, who: 'Ada', text: 'Too red' };
  const verdicts = [{ ...said, at: '2026-03-01T09:30:00.000Z' }] as never;
  const [row] = rowsOf(reportCsv(requiring(red.lab) as never, measured(red), verdicts));
  expect(row).toMatchObject({ Review: '↩ sent back by Ada', Said: 'Too red', On: '2026-03-01T09:30:00.000Z' });
});
