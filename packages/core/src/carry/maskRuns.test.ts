import fc from 'fast-check';
import { expect, it } from 'vitest';
import { bytesOfMask, maskOfBytes } from './maskRuns.ts';

it('gives back any mask bit for bit', () =>
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 40 }),
      fc.integer({ min: 1, max: 9 }),
      fc.infiniteStream(fc.boolean()),
      (w, h, bits) => {
        const inside = Uint8Array.from({ length: w * h }, () => (bits.next().value ? 1 : 0));
        const back = maskOfBytes(bytesOfMask({ width: w, height: h, inside }));
        expect([back.width, back.height]).toEqual([w, h]);
        expect(back.inside).toEqual(inside);
      },
    ),
  ));
it('writes lengths as LEB128, by hand', () => {
  // 300 out, 2 in, 198 out of 20 × 25: 300 = 0b10_0101100
  const inside = new Uint8Array(500);
  inside.fill(1, 300, 302);
  expect([...bytesOfMask({ width: 20, height: 25, inside })]).toEqual([20, 25, 0xac, 0x02, 2, 0xc6, 0x01]);
  expect([...bytesOfMask({ width: 2, height: 1, inside: Uint8Array.of(1, 1) })]).toEqual([2, 1, 0, 2]);
});
it('refuses bytes that end early, say too much, or have no possible size', () => {
  const whole = bytesOfMask({ width: 20, height: 25, inside: new Uint8Array(500) });
  expect(() => maskOfBytes(whole.subarray(0, 3))).toThrow(RangeError);
  expect(() => maskOfBytes(Uint8Array.of(2, 2, 9))).toThrow('longer than its size');
  expect(() => maskOfBytes(Uint8Array.of(0, 5, 0))).toThrow('no possible size');
  expect(() => maskOfBytes(Uint8Array.of(0xff, 0xff, 0xff, 0xff, 0x0f, 0xff, 0xff, 0x7f))).toThrow(RangeError);
  expect(() => maskOfBytes(new Uint8Array(0))).toThrow('before it is complete');
});
