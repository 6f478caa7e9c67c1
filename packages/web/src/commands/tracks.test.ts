import { describe, expect, it } from 'vitest';
import type { Geometry, Track } from '@mellow/contract';
import { knownMotions, type Homography, type TrackMotion } from '@mellow/core';
import * as tracks from './tracks.ts';
import { at, documentWith, stored } from './testing.ts';

const corner = (x: number, y: number) => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 });
const square = (x: number, y: number, size: number): Geometry => ({
  form: 'spline',
  points: [corner(x, y), corner(x + size, y), corner(x + size, y + size), corner(x, y + size)],
});
const track = (more: Partial<Track> = {}): Track =>
  ({
    id: 't',
    projectId: 'p',
    shotId: 's1',
    name: 'Track 1',
    referenceFrame: 2,
    region: square(10, 10, 100),
    freedom: tracks.ALL_MOTION,
    holdOuts: [],
    manual: [],
    runs: [],
    ...more,
  }) as unknown as Track;
const shifted = (dx: number, dy: number): Homography => [1, 0, dx, 0, 1, dy, 0, 0, 1];
const motionOf = (of: Track): TrackMotion => knownMotions(of, () => []);
const valueOf = ({ edits }: { edits: unknown[] }) => (edits[0] as { value: Track }).value;

describe('a drawn track', () => {
  it('is of the shot and frame in hand, named after those there are, its region a path', () => {
    const document = documentWith([]);
    document.tracks = stored(track(), track({ id: 'o', shotId: 's2' as never }));
    const box: Geometry = { form: 'rectangle', cx: 50, cy: 50, width: 20, height: 10, turnDeg: 0 };
    const { change, track: made } = tracks.drawTrack(document, at(7), box);
    expect(change).toEqual({ label: 'Draw Track 2', edits: [{ kind: 'track', id: made.id, value: made }] });
    expect(made).toMatchObject({ shotId: 's1', referenceFrame: 7, region: { form: 'spline' }, manual: [], runs: [] });
  });
  it('keeps a gradient as it is drawn, which has no outline', () => {
    const gradient: Geometry = { form: 'gradient', x0: 0, y0: 0, x1: 9, y1: 9 };
    expect(tracks.drawTrack(documentWith([]), at(0), gradient).track).toMatchObject({ region: gradient, holdOuts: [] });
    expect(tracks.drawTrack(documentWith([]), at(0), square(0, 0, 5)).track.region).toEqual(square(0, 0, 5));
  });
  it('takes hold-outs, each with a name of its own', () => {
    const one = valueOf(tracks.drawHoldOut(track(), square(0, 0, 5)));
    const drawn = tracks.drawHoldOut(one, square(9, 9, 5));
    expect(drawn.label).toBe('Draw Hold-out 2 of Track 1');
    const two = valueOf(drawn);
    expect(two.holdOuts.map((h) => [h.name, h.on])).toEqual([
      ['Hold-out 1', true],
      ['Hold-out 2', true],
    ]);
  });
  it('is taken away as a whole', () =>
    expect(tracks.removeTrack(track())).toEqual({
      label: 'Remove Track 1',
      edits: [{ kind: 'track', id: 't', value: null }],
    }));
});

describe('a region moved by hand', () => {
  it('is the region itself on the frame it was drawn on', () =>
    expect(tracks.regionMoved(track(), motionOf(track()), 2, square(15, 5, 100))).toEqual(
      track({ region: square(15, 5, 100) }),
    ));
  it('is a keyframe over the track on any other', () => {
    const moved = tracks.regionMoved(track(), motionOf(track()), 6, square(30, 40, 100))!;
    expect(moved.region).toEqual(track().region);
    expect(moved.manual.map((m) => m.frame)).toEqual([6]);
    expect(moved.manual[0]!.corners.map(([x, y]) => [Math.round(x), Math.round(y)])).toEqual([
      [30, 40],
      [130, 40],
      [130, 140],
      [30, 140],
    ]);
  });
  it('is none where the outline has another number of points', () => {
    const three: Geometry = { form: 'spline', points: [corner(0, 0), corner(9, 0), corner(9, 9)] };
    expect(tracks.regionMoved(track(), motionOf(track()), 6, three)).toBeUndefined();
  });
  it('is none where either is no path', () => {
    const box: Geometry = { form: 'rectangle', cx: 50, cy: 50, width: 20, height: 10, turnDeg: 0 };
    for (const frame of [2, 6]) {
      expect(tracks.regionMoved(track(), motionOf(track()), frame, box)).toBeUndefined();
      const ofBox = track({ region: box });
      expect(tracks.regionMoved(ofBox, motionOf(ofBox), frame, square(0, 0, 5))).toBeUndefined();
    }
  });
});

describe('a keyframe of a track', () => {
  it('is set where the track is, and taken away again', () => {
    const set = tracks.toggleTrackKeyframe(track(), motionOf(track()), 4);
    expect([set.label, valueOf(set).manual.map((m) => m.frame)]).toEqual(['Set a keyframe of Track 1 on frame 4', [4]]);
    const away = tracks.toggleTrackKeyframe(valueOf(set), motionOf(valueOf(set)), 4);
    expect([away.label, valueOf(away).manual]).toEqual(['Take away the keyframe of Track 1 on frame 4', []]);
    const second = valueOf(tracks.toggleTrackKeyframe(valueOf(set), motionOf(valueOf(set)), 9));
    expect(second.manual.map((m) => m.frame)).toEqual([4, 9]);
    expect(valueOf(tracks.toggleTrackKeyframe(second, motionOf(second), 4)).manual.map((m) => m.frame)).toEqual([9]);
  });
});

describe('frames that no longer count', () => {
  const runs = [
    { id: 'a', first: 0, last: 10 },
    { id: 'b', first: 11, last: 20 },
  ];
  const full = () =>
    [3, 12].reduce((of, f) => tracks.withManual(of, f, shifted(f, 0)), track({ runs } as unknown as Partial<Track>));
  const left = (which: 'from' | 'up to', frame: number) => {
    const next = valueOf(tracks.binTrackFrames(full(), which, frame));
    return [next.runs.map((r) => [r.first, r.last]), next.manual.map((m) => m.frame)];
  };
  it('from a frame on', () => expect(left('from', 5)).toEqual([[[0, 4]], [3]]));
  it('up to a frame', () => expect(left('up to', 12)).toEqual([[[13, 20]], []]));
  it('from the first frame on: none are left', () => expect(left('from', 0)).toEqual([[], []]));
  it('a run of one frame is left where it is not reached, and a keyframe on the frame goes', () => {
    expect(left('from', 12)).toEqual([
      [
        [0, 10],
        [11, 11],
      ],
      [3],
    ]);
    expect(left('up to', 3)).toEqual([
      [
        [4, 10],
        [11, 20],
      ],
      [12],
    ]);
    expect(left('from', 1)).toEqual([[[0, 0]], []]);
  });
  it('are named by where they begin or end', () => {
    expect(tracks.binTrackFrames(full(), 'from', 5).label).toBe('Bin the frames of Track 1 from 5 on');
    expect(tracks.binTrackFrames(full(), 'up to', 5).label).toBe('Bin the frames of Track 1 up to 5');
  });
  it('up to a frame inside a run leaves its rest', () =>
    expect(left('up to', 4)).toEqual([
      [
        [5, 10],
        [11, 20],
      ],
      [12],
    ]));
});
