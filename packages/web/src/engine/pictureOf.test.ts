// One picture for each way of looking, of a frame computed by the core.
import { describe, expect, it } from 'vitest';
import {
  cubeOf,
  compile,
  NEUTRAL_RECIPE,
  makeTables,
  NEUTRAL_CDL,
  NEUTRAL_SHIFT,
  renderFrame,
  sourceFrame,
  throughLook,
  type CodePicture,
  type Look,
} from '@mellow/core';
import type { Show, ShowTask } from './frameProtocol.ts';
import { needsRender, pictureOf, type Computed } from './pictureOf.ts';

const tables = makeTables();
const plane = (...codes: number[]) => Uint8Array.from(codes);
const codes = { width: 2, height: 1, r: plane(100, 100), g: plane(60, 60), b: plane(20, 20) };
const frame = sourceFrame(codes, 'srgb', 1, tables);
const alpha = Float32Array.of(1, 0);
/** The left pixel a stop brighter. */
const sighting = { layers: [], program: compile({ ...NEUTRAL_RECIPE, shift: { ...NEUTRAL_SHIFT, exposureStops: 1 } }) };
const rendered = renderFrame(frame, [sighting], tables, () => alpha);
const computed: Computed = { frame, rendered, alpha, isSolo: false, through: {} };
const seenThrough = (look: Look) => (picture: CodePicture) => throughLook(picture, look);
const task = (show: Show, more: Partial<ShowTask> = {}) =>
  ({
    kind: 'show',
    show,
    sightings: [sighting],
    index: 0,
    tint: 1,
    ground: 'black',
    measure: false,
    ...more,
  }) as ShowTask;
const pixels = (show: Show, more?: Partial<ShowTask>) => {
  const { rgba } = pictureOf(computed, task(show, more));
  return [[...rgba.subarray(0, 3)], [...rgba.subarray(4, 7)]];
};

describe('a frame is shown', () => {
  it('as it came in', () =>
    expect(pixels('Source')).toEqual([
      [100, 60, 20],
      [100, 60, 20],
    ]));
  it('as it will be rendered: what is not selected is untouched', () => {
    const [selected, other] = pixels('Result');
    expect(selected![0]).toBeGreaterThan(130);
    expect(other).toEqual([100, 60, 20]);
  });
  it('through the look, source and result alike; a matte is not', () => {
    const look = seenThrough({ cdl: { ...NEUTRAL_CDL, slope: [0.5, 1, 2] } });
    const through = (show: Show) => [...pictureOf({ ...computed, through: { look } }, task(show)).rgba.subarray(4, 7)];
    expect([through('Source'), through('Result')]).toEqual([
      [50, 60, 40],
      [50, 60, 40],
    ]);
    expect(through('Matte')).toEqual([0, 0, 0]);
  });
  it('through a viewing table, after the look, as a monitor of BT.1886 shows its codes', () => {
    const viewTable = seenThrough({ table: cubeOf('White where red is', 2, (rgb) => rgb.fill(rgb[0]!)) });
    const look = seenThrough({ cdl: { ...NEUTRAL_CDL, slope: [2.55, 0, 0] } });
    const through = (show: Show, more: object) => [
      ...pictureOf({ ...computed, through: { viewTable, ...more } }, task(show)).rgba.subarray(4, 7),
    ];
    expect(through('Source', { look })).toEqual([255, 255, 255]);
    // 100 of 255 on a display of gamma 2.4 is 103 on one of IEC 61966-2-1
    const [grey] = through('Source', {});
    expect(through('Source', {})).toEqual([grey, grey, grey]);
    const light = (100 / 255) ** 2.4;
    expect(grey).toBe(Math.round(255 * (1.055 * light ** (1 / 2.4) - 0.055)));
  });
  it('as its matte', () =>
    expect(pixels('Matte')).toEqual([
      [255, 255, 255],
      [0, 0, 0],
    ]));
  it('cut out, on a plain ground', () => {
    expect(pixels('Cut-out', { ground: 'white' })[1]).toEqual([255, 255, 255]);
    expect(pixels('Cut-out', { ground: 'black' })).toEqual([pixels('Result')[0], [0, 0, 0]]);
  });
  it('tinted where it is selected, the source beneath', () => {
    const [selected, other] = pixels('Tint');
    expect([selected, other]).toEqual([
      [214, 92, 255],
      [100, 60, 20],
    ]);
  });
  it('as the difference that the recolour makes', () => {
    const [selected, other] = pixels('Difference');
    expect(selected![0]).toBe(Math.min(4 * (pixels('Result')[0]![0]! - 100), 255));
    expect(other).toEqual([0, 0, 0]);
  });
});

it('a tint asks for spill only where it is taken out', () => {
  const asked: string[] = [];
  const watched = Object.defineProperty({ ...computed, rendered: { mattes: [alpha] } }, 'rendered', {
    value: Object.defineProperty({ mattes: [alpha] }, 'spills', { get: () => asked.push('spills') && [undefined] }),
  }) as unknown as Computed;
  const tinted = (mode: string) =>
    pictureOf(watched, task('Tint', { sightings: [{ ...sighting, spill: { mode } }] as never }));
  tinted('off');
  expect(asked).toEqual([]);
  tinted('remove');
  expect(asked).toEqual(['spills']);
});
it('only what shows or measures a recolour is rendered', () => {
  const rendering = (['Source', 'Matte', 'Result', 'Tint', 'Cut-out', 'Difference'] as const).filter((show) =>
    needsRender(task(show)),
  );
  expect(rendering).toEqual(['Result', 'Tint', 'Cut-out', 'Difference']);
  expect(needsRender(task('Matte', { measure: true }))).toBe(true);
});
