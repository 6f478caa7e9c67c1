// The pages of the report, made into a file and read back by Poppler's pdftotext.
import { execFileSync } from 'node:child_process';
import { createRequire } from 'node:module';
import { expect, it } from 'vitest';
import pdfmake from 'pdfmake';
import type { SightingMeasurements } from '@mellow/contract';
import { labFromLinear709 } from '@mellow/core';
import { documentWith, shape, stored } from '../../commands/testing.ts';
import { pictureKey, reportPdf, type Reported } from './reportPdf.ts';

const font = (name: string) => createRequire(import.meta.url).resolve(`dejavu-fonts-ttf/ttf/${name}.ttf`);
const sans = font('DejaVuSans');
pdfmake.addFonts({ DejaVu: { normal: sans, bold: font('DejaVuSans-Bold'), italics: sans, bolditalics: sans } });
pdfmake.setLocalAccessPolicy((path) => path.includes('dejavu-fonts-ttf'));
pdfmake.setUrlAccessPolicy(() => false);
const textOf = async (reported: Reported) => {
  const file = await pdfmake.createPdf(reportPdf(reported)).getBuffer();
  return execFileSync('pdftotext', ['-layout', '-', '-'], { input: file, encoding: 'utf8' });
};
/** A red pixel, as PNG. */
const PIXEL =
  'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR4nGP4' +
  'z8DwHwAFAAH/iZk9HQAAAABJRU5ErkJggg==';

const rgb: [number, number, number] = [0.5, 0.1, 0.1];
const red = { meanLinear: rgb, lab: labFromLinear709(rgb) };
const shares = { pixels: 100, coverage: 0.9, clippedShare: 0, resultClippedShare: 0.31 };
const reported = (more: Partial<Reported> = {}): Reported => ({
  document: {
    ...documentWith([shape('a')]),
    requirements: stored({
      id: 'r',
      pieceId: 'cup',
      colourwayId: 'c',
      name: 'Ochre № 7',
      lab: red.lab,
      illuminant: 'D65',
      tolerance: 1.5,
      note: 'From the swatch book',
      of: 'mean',
    }),
    versions: stored({ id: 'v', pieceId: 'cup', colourwayId: 'c', name: 'Softer' }),
  } as never,
  measurements: [
    {
      sightingId: 'x',
      colourwayId: 'c',
      fresh: true,
      measuredFrames: 1,
      frames: [{ frame: 0, before: red, after: red, ...shares }],
    },
  ] as unknown as SightingMeasurements[],
  verdicts: [],
  notes: [],
  pictures: new Map(),
  at: new Date('2026-03-01T09:30:00Z'),
  ...more,
});

it('says what is required, what was measured and how they stand, in any alphabet', async () => {
  const text = await textOf(reported());
  expect(text).toContain('Ochre № 7');
  expect(text).toContain(`L* ${red.lab.L.toFixed(1)}`);
  expect(text).toMatch(/tolerance ΔE00 1\.50/);
  expect(text).toMatch(/✓ 0\.00/);
  expect(text).toMatch(/90 % selected/);
  expect(text).toMatch(/31 % clipped/);
  expect(text).toContain('From the swatch book');
  expect(text).toContain('Versions kept: Softer');
  expect(text).toMatch(/Demo\s+·\s+1 of 1/);
});
it('says what was decided and noted', async () => {
  const by = { who: 'Ada', colourwayId: 'c', at: '2026-03-01T09:00:00Z' };
  const text = await textOf(
    reported({
      verdicts: [{ sightingId: 'x', decision: 'approved', holds: false, text: '', ...by }] as never,
      notes: [
        { id: 'n', shotId: 's1', frame: 7, text: 'Warmer', isSettled: true, ...by },
        { id: 'm', shotId: 'gone', frame: 9, text: 'Darker', isSettled: false, ...by, colourwayId: null },
      ] as never,
    }),
  );
  expect(text.replaceAll(/\s+/g, ' ')).toContain('changed since approved');
  expect(text).toContain('✓ Bar, frame 7, A: Warmer (Ada)');
  expect(text).toContain('a shot that was removed, frame 9: Darker (Ada)');
});
it('shows the piece as filmed and recoloured where pictures could be made', async () => {
  const imagesIn = async (more: Partial<Reported>) => {
    const file = await pdfmake.createPdf(reportPdf(reported(more))).getBuffer();
    return file.toString('latin1').split('/Subtype /Image').length - 1;
  };
  expect(await imagesIn({})).toBe(0);
  const pictures = new Map([[pictureKey('c', 'x'), { before: PIXEL, after: PIXEL }]]);
  expect(await imagesIn({ pictures })).toBeGreaterThan(0);
});
it('begins a page with every colourway, and tells pieces that are isolated nowhere', async () => {
  const base = reported();
  const second = { id: 'd', projectId: 'p', name: 'Plum', position: 1 };
  const hat = { id: 'hat', projectId: 'p', name: 'Hat', kind: 'garment', position: 1 };
  const document = {
    ...base.document,
    colourways: [...base.document.colourways, ...stored(second)],
    pieces: [...base.document.pieces, ...stored(hat)],
  } as never;
  const text = await textOf({ ...base, document });
  const pages = text.split('\f').filter((page) => page.trim());
  expect(pages).toHaveLength(2);
  expect(pages[1]!.trim()).toMatch(/^Plum/);
  expect(pages[0]).toContain('Hat: isolated in no shot.');
});
