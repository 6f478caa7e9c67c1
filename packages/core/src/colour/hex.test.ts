import { converter } from 'culori';
import { expect, it } from 'vitest';
import { hexFromLab, hexFromLinear709, labFromHex } from './hex.ts';

const lab65 = converter('lab65');

it.each(['#d99a2b', '#6d3a66', '#000000', '#ffffff', '#0102fe'])(
  'reads %s as culori does, and writes it again',
  (hex) => {
    const ours = labFromHex(hex)!;
    const theirs = lab65(hex)!;
    expect(Math.abs(ours.L - theirs.l)).toBeLessThan(0.01);
    expect(Math.abs(ours.a - (theirs.a ?? 0))).toBeLessThan(0.02);
    expect(Math.abs(ours.b - (theirs.b ?? 0))).toBeLessThan(0.02);
    expect(hexFromLab(ours)).toBe(hex);
  },
);
it('takes three digits for six, with or without #, in either case, with spaces round it', () => {
  const wanted = labFromHex('#eeaa33');
  for (const hex of ['#ea3', 'ea3', 'EEAA33', ' #EeAa33 ']) expect(labFromHex(hex)).toEqual(wanted);
});
it('takes nothing else', () => {
  for (const text of ['', '#', '#1', '#12', '#1234', '#12345', '#1234567', 'x#aabbcc', '#aabbccx', '#ggg', '#ggghhh'])
    expect(labFromHex(text)).toBeUndefined();
});
it('clips what no sRGB code can show', () => expect(hexFromLinear709([-0.2, 1.7, 0])).toBe('#00ff00'));
