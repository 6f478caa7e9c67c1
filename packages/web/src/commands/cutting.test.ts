import { describe, expect, it } from 'vitest';
import type { ProjectDocument, Shot, Sighting, Span, Track } from '@mellow/contract';
import { continuationOf, joinShots, splitAt, splitShot, trimShot, untrimShot } from './cutting.ts';
import { after, documentWith, shape, stored } from './testing.ts';

const id = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const [PROJECT, BAR, STREET, CUP, SIGHTING, TRACK, RECIPE] = [1, 2, 3, 4, 5, 6, 7].map(id) as [
  string,
  string,
  string,
  string,
  string,
  string,
  string,
];
const shot = (of: string, name: string, position: number, span: Span | null = null) =>
  ({ id: of, projectId: PROJECT, mediaId: 'm', name, position, span, patches: [] }) as unknown as Shot;
function reel(...shots: Shot[]): ProjectDocument {
  const follow = { trackId: TRACK, parts: { move: true } };
  return {
    ...documentWith(undefined),
    project: { value: { id: PROJECT, referenceShotId: STREET }, revision: 1 },
    media: [{ id: 'm', frames: 48 }],
    shots: stored(...shots),
    sightings: stored({ id: SIGHTING, shotId: BAR, pieceId: CUP, layers: [{ ...shape('a'), follow }] }),
    tracks: stored({ id: TRACK, shotId: BAR, name: 'Track 1', runs: [{ id: 'run' }] }),
    recipes: stored({ id: RECIPE, pieceId: CUP, animated: { [BAR]: { 'shift.hueDeg': [] } } }),
  } as unknown as ProjectDocument;
}
let made = 100;
const newId = () => id(made++);
const valuesOf = <T>(change: { edits: { kind: string; value: unknown }[] }, kind: string) =>
  change.edits.filter((e) => e.kind === kind).map((e) => e.value as T);

describe('a shot cut in two', () => {
  const document = reel(shot(BAR, 'Bar', 0), shot(STREET, 'Street', 1));
  const change = splitShot(document, document.shots[0]!.value, 20, newId);
  const [first, second, moved] = valuesOf<Shot>(change, 'shot');
  it('shows the same footage on either side of the cut, one after the other in the reel', () => {
    expect([first!.span, second!.span]).toEqual([
      { from: 0, to: 19 },
      { from: 20, to: 47 },
    ]);
    expect([first!.position, second!.position, moved!.position]).toEqual([0, 1, 2]);
    expect([second!.mediaId, second!.name, moved!.id]).toEqual(['m', 'Bar (2)', STREET]);
  });
  it('has all that hung on it on both sides, each following its own track', () => {
    const [track] = valuesOf<Track>(change, 'track');
    const [sighting] = valuesOf<Sighting>(change, 'sighting');
    expect([track!.shotId, sighting!.shotId]).toEqual([second!.id, second!.id]);
    expect((sighting!.layers[0] as unknown as { follow: { trackId: string } }).follow.trackId).toBe(track!.id);
    expect([track!.id === TRACK, sighting!.id === SIGHTING, sighting!.pieceId]).toEqual([false, false, CUP]);
    // what the tracker found is of the footage: both tracks know it
    expect(track!.runs).toEqual([{ id: 'run' }]);
    const [recipe] = valuesOf<{ animated: Record<string, unknown> }>(change, 'recipe');
    expect(Object.keys(recipe!.animated)).toEqual([BAR, second!.id]);
  });
  it('is not cut at its first frame, nor past its last', () => {
    const bar = shot(BAR, 'Bar', 0, { from: 10, to: 30 });
    const cut = reel(bar);
    expect([10, 5, 31].map((at) => splitShot(cut, bar, at, newId).edits)).toEqual([[], [], []]);
    expect(splitShot(cut, bar, 30, newId).edits.length).toBeGreaterThan(0);
  });
  it('is joined again to what it was', () => {
    const cut = reel(first!, { ...second!, id: STREET as never });
    const [bar, rest] = cut.shots.map((s) => s.value) as [Shot, Shot];
    expect(continuationOf(cut, bar)).toBe(rest);
    const joined = joinShots(cut, bar, rest);
    expect(joined.edits).toEqual([
      // the shot in whose light colours are stated goes: the whole takes its place
      { kind: 'project', id: PROJECT, value: { id: PROJECT, referenceShotId: BAR } },
      { kind: 'shot', id: STREET, value: null },
      { kind: 'shot', id: BAR, value: { ...bar, span: null } },
    ]);
  });
  it('is not joined to another footage, nor over a gap', () => {
    const bar = shot(BAR, 'Bar', 0, { from: 0, to: 19 });
    expect(continuationOf(reel(bar, shot(STREET, 'Street', 1, { from: 21, to: 47 })), bar)).toBeUndefined();
    const other = { ...shot(STREET, 'Street', 1, { from: 20, to: 47 }), mediaId: 'n' as never };
    const with2 = {
      ...reel(bar, other),
      media: [
        { id: 'm', frames: 48 },
        { id: 'n', frames: 48 },
      ],
    };
    expect(continuationOf(with2 as never, bar)).toBeUndefined();
  });
});

describe('a shot that is trimmed', () => {
  const bar = shot(BAR, 'Bar', 0, { from: 10, to: 30 });
  const document = reel(bar);
  const spanAfter = (change: ReturnType<typeof trimShot>) => (change.edits[0]?.value as Shot | undefined)?.span;
  it('begins or ends at a frame, further out too', () => {
    expect(spanAfter(trimShot(document, bar, 'from', 12))).toEqual({ from: 12, to: 30 });
    expect(spanAfter(trimShot(document, bar, 'to', 40))).toEqual({ from: 10, to: 40 });
    expect(trimShot(document, bar, 'to', 12).label).toBe('Bar ends at frame 12');
  });
  it('of all its footage has no span', () => {
    const nearly = shot(BAR, 'Bar', 0, { from: 0, to: 46 });
    expect(spanAfter(trimShot(reel(nearly), nearly, 'to', 47))).toBeNull();
    expect(spanAfter(untrimShot(bar))).toBeNull();
  });
  it('is left as it is where nothing would be left, or nothing changes', () => {
    expect([trimShot(document, bar, 'from', 31).edits, trimShot(document, bar, 'to', 30).edits]).toEqual([[], []]);
  });
});

describe('a shot cut at several frames at once', () => {
  const document = reel(shot(BAR, 'Bar', 0), shot(STREET, 'Street', 1));
  it('becomes as many shots, in order, each with its own copy of the work', () => {
    const change = splitAt(document, document.shots[0]!.value, [30, 10, 10], newId);
    const now = after(document, change);
    const shots = now.shots.map((s) => s.value).sort((a, b) => a.position - b.position);
    expect(shots.map((s) => [s.name, s.span?.from ?? 0, s.span?.to ?? 47])).toEqual([
      ['Bar', 0, 9],
      ['Bar (2)', 10, 29],
      ['Bar (3)', 30, 47],
      ['Street', 0, 47],
    ]);
    for (const { id: of } of shots.slice(0, 3))
      expect(now.sightings.filter((s) => s.value.shotId === of)).toHaveLength(1);
    expect(new Set(change.edits.map((e) => e.id)).size).toBe(change.edits.length);
  });
  it('is left as it is where none of the frames lies in it', () => {
    expect(splitAt(document, document.shots[0]!.value, [0, 48, 99], newId).edits).toEqual([]);
  });
});
