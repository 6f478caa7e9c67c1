import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NEUTRAL_CDL } from '@mellow/core';
import { CdlError, cdlText, readCdl } from './cdlFile.ts';

const cdl = {
  slope: [1.1, 0.9, 1.25] as [number, number, number],
  offset: [0.02, -0.01, 0] as [number, number, number],
  power: [0.95, 1, 1.2] as [number, number, number],
  saturation: 0.85,
};
const SOP = '<SOPNode><Slope>1.1 0.9 1.25</Slope><Offset>0.02 -0.01 0</Offset><Power>0.95 1 1.2</Power></SOPNode>';
const SAT = '<SatNode><Saturation>0.85</Saturation></SatNode>';
const correction = (inside: string) => `<ColorCorrection id="a">${inside}</ColorCorrection>`;

describe('a CDL file', () => {
  // the three kinds of file of ASC CDL v1.2, written by hand
  it.each([
    ['.cc', correction(SOP + SAT)],
    [
      '.ccc',
      `<ColorCorrectionCollection xmlns="urn:ASC:CDL:v1.2">${correction(SOP + SAT)}</ColorCorrectionCollection>`,
    ],
    [
      '.cdl',
      `<?xml version="1.0"?><ColorDecisionList><ColorDecision>${correction(SOP + SAT)}</ColorDecision>` +
        `<ColorDecision>${correction(SAT)}</ColorDecision></ColorDecisionList>`,
    ],
  ])('%s is read, the first correction of several', (_, text) => expect(readCdl(text)).toEqual(cdl));
  it('comes back as it was written, whatever it is called', () =>
    expect(readCdl(cdlText('Evening <1> & "2"', cdl))).toEqual(cdl));
  it('may lack one of its nodes, which is neutral then', () => {
    expect(readCdl(correction(SAT))).toEqual({ ...NEUTRAL_CDL, saturation: 0.85 });
    expect(readCdl(correction(SOP)).saturation).toBe(1);
  });
  it.each([
    [correction(''), 'neither SOPNode nor SatNode'],
    ['<Other/>', 'It has no ColorCorrection.'],
    [correction(SOP.replace(/<Power>.*<\/Power>/, '')), 'It has no Power.'],
    [correction(SOP.replace('1.1 0.9 1.25', '1.1 0.9')), 'Slope must be 3 numbers, not “1.1 0.9”.'],
    [correction(SAT.replace('0.85', 'much')), 'Saturation must be a number, not “much”.'],
    [correction(SOP.replace('1.1', '12')), 'Slope 12 is beyond what is possible here, 0 to 8.'],
    ['<ColorCorrection>\n<SOPNode>', 'Line '],
    ['', 'Line '],
  ])('%j is refused: %s', (text, said) => {
    expect(() => readCdl(text)).toThrow(CdlError);
    expect(() => readCdl(text)).toThrow(said);
  });
  it('whatever it holds is read or refused, never anything else', () => {
    const part = fc.constantFrom(
      '<ColorCorrection>',
      '</ColorCorrection>',
      SOP,
      SAT,
      '<!DOCTYPE a>',
      '&a;',
      '<a/>',
      '1 2',
    );
    fc.assert(
      fc.property(fc.array(fc.oneof(part, fc.string({ maxLength: 6 })), { maxLength: 8 }), (parts) => {
        try {
          expect(readCdl(parts.join('')).slope).toHaveLength(3);
        } catch (error) {
          expect(error).toBeInstanceOf(CdlError);
        }
      }),
      { numRuns: 1000 },
    );
  });
});
