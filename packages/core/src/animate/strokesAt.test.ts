import type { BrushLayer, ScribbleLayer } from '../document/layer.ts';
import type { Follow } from '../document/motion.ts';
import { expect, it } from 'vitest';
import { placementAbout, placementMap } from '../shape/placement.ts';
import { FLEX_NODES } from '../track/flex.ts';
import type { Homography } from '../track/homography.ts';
import type { TrackMotion } from '../track/trackMotion.ts';
import { isAnimated, layerAt } from './layerAt.ts';
import type { Motions } from './place.ts';
import { strokeBack, strokePlace, strokeThere } from './strokesAt.ts';
import { PLAIN_LAYER } from '../testing/layers.ts';

const motion: Homography = placementMap({
  ...placementAbout(100, 80),
  moveX: 30,
  moveY: -10,
  turnDeg: 25,
  scaleX: 1.5,
  scaleY: 1.5,
});
const flex = Array.from({ length: 2 * FLEX_NODES * FLEX_NODES }, (_, i) => 2 * Math.sin(((i >> 1) % FLEX_NODES) / 3));
const track: TrackMotion = {
  referenceFrame: 0,
  quad: [
    [50, 40],
    [150, 40],
    [150, 120],
    [50, 120],
  ],
  known: new Map([[8, { motion, confidence: 1, by: 'track', flex }]]),
};
const motions: Motions = new Map([['t', track]]);
const all: Follow = { trackId: 't', move: true, turn: true, scale: true, shear: true, perspective: true };
const layer: ScribbleLayer = {
  ...PLAIN_LAYER,
  kind: 'scribble',
  strokes: [
    {
      sign: 'in',
      widthPx: 6,
      points: [
        [90, 70],
        [100, 80],
        [120, 95],
      ],
    },
  ],
};

it('carries strokes along with the track they follow, as wide as the surface has become', () => {
  const now = layerAt({ ...layer, follow: all }, 8, motions) as ScribbleLayer;
  const [, [x, y]] = now.strokes[0]!.points as [unknown, [number, number]];
  // the pivot of the motion goes by its move alone
  expect([x, y]).toEqual([expect.closeTo(130, 6), expect.closeTo(70, 6)]);
  expect(now.strokes[0]!.widthPx).toBeCloseTo(9, 6);
  expect(now.follow).toBeUndefined();
});
it('takes only the parts it follows with: move but not scale leaves the width', () => {
  const now = layerAt({ ...layer, follow: { ...all, scale: false } }, 8, motions) as ScribbleLayer;
  expect(now.strokes[0]!.widthPx).toBeCloseTo(6, 3);
});
it.each([
  ['stiff', all],
  ['bent', { ...all, flex: true }],
])('comes back to where it was: %s', (_, follow) => {
  const place = strokePlace(follow, 8, motions);
  const there = strokeThere(layer.strokes[0]!, place);
  expect(there).not.toEqual(layer.strokes[0]);
  const back = strokeBack(there, place);
  expect(back.widthPx).toBeCloseTo(6, 6);
  back.points.forEach(([x, y], i) => {
    expect(x).toBeCloseTo(layer.strokes[0]!.points[i]![0], 2);
    expect(y).toBeCloseTo(layer.strokes[0]!.points[i]![1], 2);
  });
});
it('stays where it was drawn without a track, and when its track is gone', () => {
  expect(layerAt(layer, 8, motions)).toBe(layer);
  expect((layerAt({ ...layer, follow: { ...all, trackId: 'gone' } }, 8, motions) as ScribbleLayer).strokes).toEqual(
    layer.strokes,
  );
  expect([isAnimated(layer), isAnimated({ ...layer, follow: all })]).toEqual([false, true]);
});

it('counts a stroke whole on the frame it was drawn on, by what it lies on elsewhere', () => {
  const looks = [{ L: 0.5, a: 0.1, b: 0 }];
  const drawn: ScribbleLayer = { ...layer, strokes: [{ ...layer.strokes[0]!, frame: 8, looks }] };
  const knows = (frame: number) => (layerAt(drawn, frame, motions) as ScribbleLayer).strokes[0]!.looks;
  expect([knows(8), knows(9)]).toEqual([undefined, looks]);
  expect(isAnimated(drawn)).toBe(true);
});
it('takes a painted stroke along with its pressure, on the frames it is there on', () => {
  const brush: BrushLayer = {
    ...PLAIN_LAYER,
    kind: 'brush',
    strokes: [
      { sign: 'in', widthPx: 6, softness: 0.2, flow: 1, points: [[90, 70, 0.3]], span: { from: 8, to: 9 } },
      { sign: 'out', widthPx: 4, softness: 0, flow: 0.5, points: [[100, 80, 1]], span: { from: 9, to: 20 } },
    ],
    follow: all,
  };
  const on = layerAt(brush, 8, motions) as BrushLayer;
  const scribbled = layerAt({ ...layer, follow: all }, 8, motions) as ScribbleLayer;
  expect(on.strokes).toEqual([
    {
      ...brush.strokes[0],
      points: [[...scribbled.strokes[0]!.points[0]!, 0.3]],
      widthPx: expect.closeTo(6 * 1.5, 6),
    },
  ]);
  expect([7, 9, 20, 21].map((f) => (layerAt(brush, f, new Map()) as BrushLayer).strokes.length)).toEqual([0, 2, 1, 0]);
  expect([isAnimated(brush), isAnimated({ ...brush, follow: undefined })]).toEqual([true, true]);
  expect(isAnimated({ ...brush, follow: undefined, strokes: [] })).toBe(false);
});
