import { expect, it } from 'vitest';
import type { Media, Shot } from '@mellow/contract';
import { readFootage, readingOf } from './readFootage.ts';
import { after, documentWith, shape } from './testing.ts';

const media = (id: string, more: Partial<Media> = {}) =>
  ({ id, name: 'bar.mov', matrix: 'bt709', range: 'limited', isDeinterlaced: false, ...more }) as unknown as Media;
const document = () => {
  const made = documentWith([shape('a')]);
  const third = { ...made.shots[0]!.value, id: 's3', mediaId: 'other' } as unknown as Shot;
  return { ...made, shots: [...made.shots, { value: third, revision: 1 }] };
};

it('all shots of a footage are read otherwise, in one step, and keep their work', () => {
  const before = document();
  const change = readFootage(before, media('m'), media('n', { matrix: 'bt2020nc', range: 'full' }));
  expect(change.label).toBe('Read bar.mov as bt2020nc, full range');
  const now = after(before, change);
  expect(new Set(now.shots.map((s) => `${s.value.id} ${s.value.mediaId}`))).toEqual(
    new Set(['s1 n', 's2 n', 's3 other']),
  );
  expect(now.sightings).toEqual(before.sightings);
});
it('the same way again is no step', () => {
  expect(readFootage(document(), media('m'), media('m')).edits).toEqual([]);
});
it('fields are said as they are taken', () => {
  const [both, one] = [media('m'), media('n', { isDeinterlaced: true })];
  expect(readFootage(document(), both, one).label).toBe('Read bar.mov as deinterlaced');
  expect(readFootage(document(), one, both).label).toBe('Read bar.mov as interlaced');
  expect(readingOf(one)).toEqual({ matrix: 'bt709', range: 'limited', isDeinterlaced: true });
});
