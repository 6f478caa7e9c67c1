import { describe, expect, it } from 'vitest';
import type { Media, ProjectDocument, Shot } from '@mellow/contract';
import { placeIn, replaceFootage } from './replaceFootage.ts';
import { after, documentWith, shape } from './testing.ts';

const media = (id: string, more: Partial<Media> = {}) =>
  ({
    id,
    name: id,
    width: 96,
    height: 54,
    fps: { num: 24, den: 1 },
    frames: 48,
    timecode: '01:00:00:00',
    ...more,
  }) as unknown as Media;
/** Bar shows `m`, with a matte in it; Street holds the new footage as it came in. */
function reel(next: Partial<Media> = {}, more: Partial<Shot> = {}, isIsolated = true): ProjectDocument {
  const document = documentWith(isIsolated ? [shape('a')] : undefined);
  const [bar, street] = document.shots.map((s) => s.value) as [Shot, Shot];
  Object.assign(bar, { span: null, ...more });
  Object.assign(street, { span: null, mediaId: 'n' });
  return { ...document, media: [media('m'), media('n', next)] };
}
const replaced = (document: ProjectDocument) => replaceFootage(document, document.shots[0]!.value, document.media[1]!);
const why = (document: ProjectDocument) => placeIn(document, document.shots[0]!.value, document.media[1]!).whyNot;

describe('footage put under a shot', () => {
  it('keeps the shot and all its work, and the shot it came as makes room', () => {
    const document = reel();
    const now = after(document, replaced(document));
    expect(now.shots.map((s) => [s.value.name, s.value.mediaId])).toEqual([['Bar', 'n']]);
    expect(now.sightings).toEqual(document.sightings);
  });
  it('leaves a shot in which something was done with it', () => {
    const document = reel();
    const sighting = structuredClone(document.sightings[0]!);
    Object.assign(sighting.value, { id: 'y', shotId: 's2' });
    const worked = { ...document, sightings: [...document.sightings, sighting] };
    expect(after(worked, replaced(worked)).shots).toHaveLength(2);
  });
  it('shows the same frames where it is longer, or the shot is a part', () => {
    const longer = reel({ frames: 60 });
    expect(after(longer, replaced(longer)).shots[0]!.value.span).toEqual({ from: 0, to: 47 });
    const part = reel({}, { span: { from: 10, to: 20 } });
    expect(after(part, replaced(part)).shots[0]!.value.span).toEqual({ from: 10, to: 20 });
  });
  it('is conformed by timecode where nothing lies on frames yet', () => {
    const document = reel({ timecode: '00:59:59:12', frames: 100 }, { span: { from: 10, to: 20 } }, false);
    expect(after(document, replaced(document)).shots[0]!.value.span).toEqual({ from: 22, to: 32 });
  });
});
describe('is refused, and why is said', () => {
  it.each([
    [{ width: 192 }, /is of 192 × 54, not 96 × 54/],
    [{ fps: { num: 25, den: 1 } }, /has 25 frames a second, not 24/],
    [{ frames: 47 }, /does not hold all frames/],
    [{ timecode: '01:00:00:01', frames: 99 }, /does not hold all frames/],
    [{ timecode: '00:59:59:12', frames: 100 }, /begins at 00:59:59:12, not 01:00:00:00/],
  ])('where it %j', (next, says) => {
    const document = reel(next);
    expect(why(document)).toMatch(says);
    expect(replaced(document).edits).toEqual([]);
  });
  it('not where a rate is only written differently, or a timecode is not there', () => {
    expect(why(reel({ fps: { num: 24_000, den: 1000 } }))).toBeUndefined();
    expect(why(reel({ timecode: null }))).toBeUndefined();
  });
});
