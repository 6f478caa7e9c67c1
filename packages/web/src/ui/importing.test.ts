import { expect, it } from 'vitest';
import { filesNamed, rateText, reasonText, timingOffers } from './importing.ts';

const refused = (name: string, fps?: number) => ({
  name,
  reason: 'why',
  offer: fps ? { timing: 'frame by frame' as const, fps } : null,
});

it('makes one offer for each rate, of those files only that can come in that way', () =>
  expect(
    timingOffers([refused('a.mp4', 25), refused('b.mov'), refused('c.mp4', 24000 / 1001), refused('d.mp4', 25)]),
  ).toEqual([
    { fps: 25, names: ['a.mp4', 'd.mp4'] },
    { fps: 24000 / 1001, names: ['c.mp4'] },
  ]));
it('writes a rate as the trade does', () =>
  expect([24000 / 1001, 25, 29.97].map(rateText)).toEqual(['23.976', '25', '29.97']));
it('says why behind the name, without the name once more', () => {
  const reason = '“a.mp4” was not imported: it cannot be read.';
  expect(reasonText({ ...refused('a.mp4'), reason })).toBe('it cannot be read.');
  expect(reasonText({ ...refused('b.mp4'), reason })).toBe(reason);
});
it('sends again only the files that were refused', () => {
  const files = [{ name: 'a.mp4' }, { name: 'b.mp4' }];
  expect(filesNamed(files, ['b.mp4'])).toEqual([{ name: 'b.mp4' }]);
});
