import fc from 'fast-check';
import { expect, it } from 'vitest';
import { readMeasurementFile } from './measurementFile.ts';
import { measurementText } from './measurementText.ts';

const lab = fc.record({
  L: fc.double({ min: 0, max: 100, noNaN: true }),
  a: fc.double({ min: -120, max: 120, noNaN: true }),
  b: fc.double({ min: -120, max: 120, noNaN: true }),
});

it('what is written is read back: names of any kind, Lab to three decimals, under D65', () => {
  const name = fc.string({ unit: 'grapheme', minLength: 1, maxLength: 20 }).filter((n) => n.trim() !== '');
  fc.assert(
    fc.property(fc.array(fc.record({ name, lab }), { minLength: 1, maxLength: 5 }), (colours) => {
      const back = readMeasurementFile(measurementText('Somebody', '2026-01-02', colours));
      expect(back).toHaveLength(colours.length);
      back.forEach((sample, k) => {
        expect(sample.illuminant).toBe('D65');
        expect(Math.abs(sample.lab.L - colours[k]!.lab.L)).toBeLessThan(6e-4);
        expect(Math.abs(sample.lab.b - colours[k]!.lab.b)).toBeLessThan(6e-4);
        expect(sample.name.replaceAll('""', '"')).toBe(colours[k]!.name.replaceAll(/\s+/g, ' '));
      });
    }),
  );
});
