import { expect, it } from 'vitest';
import type { Edit } from '@mellow/contract';
import { assertAnimatedInRange } from './animatedRanges.ts';
import { Refused } from '../errors.ts';

const id = (n: number) => `00000000-0000-4000-8000-00000000000${n}`;
const key = (frame: number, value: number) => ({ frame, value, ease: 'linear' as const });
const shape = {
  id: id(1),
  name: 'Round it',
  on: true,
  mode: 'add',
  invert: false,
  strength: 1,
  kind: 'shape',
  geometry: { form: 'rectangle', cx: 0, cy: 0, width: 10, height: 10, turnDeg: 0 },
  feather: { innerPx: 0, outerPx: 2, falloff: 'smooth' },
};
const sighting = (layers: object[], animated = {}): Edit =>
  ({
    kind: 'sighting',
    id: id(2),
    revision: null,
    value: {
      id: id(2),
      projectId: id(3),
      pieceId: id(4),
      shotId: id(5),
      layers,
      animated,
      spill: null,
      steadyFrames: 0,
      cleanUp: {
        quietPx: 0,
        floor: 0.1,
        ceiling: 0.9,
        islandsPx: 0,
        holesPx: 0,
        edgePx: 0,
        softenPx: 0,
        softenBias: 0,
      },
    },
  }) as unknown as Edit;
const recipe = (animated: object): Edit =>
  ({
    kind: 'recipe',
    id: id(6),
    revision: null,
    value: {
      id: id(6),
      projectId: id(3),
      pieceId: id(4),
      colourwayId: id(7),
      strength: 1,
      shift: { exposureStops: 0, hueDeg: 0, saturation: 1, density: 0 },
      animated,
    },
  }) as unknown as Edit;
function refusalOf(edit: Edit): Refused | undefined {
  try {
    assertAnimatedInRange([recipe({}), edit]);
  } catch (error) {
    return error as Refused;
  }
  return undefined;
}

it('lets keyframes within the numbers’ own ranges through', () => {
  expect(
    refusalOf(
      sighting([{ ...shape, animated: { strength: [key(0, 0), key(20, 1)], 'feather.outerPx': [key(3, 40)] } }], {
        'cleanUp.floor': [key(0, 0), key(9, 0.5)],
      }),
    ),
  ).toBeUndefined();
  // several turns of hue are in range
  expect(
    refusalOf(recipe({ [id(5)]: { 'shift.hueDeg': [key(0, 0), key(40, 720)], strength: [key(0, 0), key(10, 1)] } })),
  ).toBeUndefined();
});
it.each([
  [
    'a layer’s strength over 1',
    sighting([{ ...shape, animated: { strength: [key(0, 1), key(12, 1.5)] } }]),
    'strength',
    12,
    'edits.1.value.layers.0.animated.strength',
  ],
  [
    'a negative feather of a layer within a group',
    sighting([
      {
        id: id(8),
        name: 'Both',
        on: true,
        mode: 'add',
        invert: false,
        strength: 1,
        kind: 'group',
        layers: [{ ...shape, animated: { 'feather.outerPx': [key(7, -1)] } }],
      },
    ]),
    'feather.outerPx',
    7,
    'edits.1.value.layers.0.layers.0.animated.feather.outerPx',
  ],
  [
    'a floor above the ceiling',
    sighting([shape], { 'cleanUp.floor': [key(0, 0), key(5, 0.95)] }),
    'cleanUp.ceiling',
    5,
    'edits.1.value.animated.cleanUp.ceiling',
  ],
  [
    'a recipe’s strength under 0',
    recipe({ [id(5)]: { strength: [key(30, -0.2)] } }),
    'strength',
    30,
    `edits.1.value.animated.${id(5)}.strength`,
  ],
])('refuses %s, naming number and frame', (_, edit, name, frame, path) => {
  const refusal = refusalOf(edit)!;
  expect(refusal).toBeInstanceOf(Refused);
  expect(refusal.message).toContain(`The keyframe of ${name} on frame ${frame} is out of range`);
  expect(refusal.errors.map((i) => i.path)).toEqual([path]);
});
