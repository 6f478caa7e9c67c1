import { labFromLinear709, NEUTRAL_RECIPE } from '@mellow/core';
import { describe, expect, it } from 'vitest';
import { whyOff } from './why.ts';

const RED: [number, number, number] = [0.5, 0.1, 0.1];
const colour = (rgb: [number, number, number]) => ({ meanLinear: rgb, lab: labFromLinear709(rgb) });
const frames = (of: [number, number, number][], more: object = {}) =>
  of.map((rgb, frame) => ({
    frame,
    before: colour(rgb),
    after: colour(rgb),
    pixels: 100,
    coverage: 1,
    clippedShare: 0,
    resultClippedShare: 0,
    ...more,
  }));
const requirement = { illuminant: 'D65', lab: labFromLinear709(RED) } as never;
const BLUE: [number, number, number] = [0.1, 0.1, 0.5];
const looked = (
  measured: object[] | undefined,
  more: { shot?: object; recipe?: object | null; sighting?: object } = {},
) =>
  ({
    sighted: {
      shot: { id: 's2', light: null, ...more.shot },
      sighting: { id: 'x', body: null, ...more.sighting },
      measured: measured && { frames: measured },
    },
    requirement,
    tolerance: 1,
    recipe: more.recipe === null ? undefined : { ...NEUTRAL_RECIPE, animated: {}, ...more.recipe },
    referenceShotId: 's1',
    isTrimmed: false,
  }) as unknown as Parameters<typeof whyOff>[0];

describe('why a sighting is off', () => {
  it('is not asked of one that matches, or is not measured', () => {
    expect(whyOff(looked(frames([RED])))).toEqual([]);
    expect(whyOff(looked(undefined))).toEqual([]);
    expect(whyOff({ ...looked(frames([BLUE])), requirement: undefined })).toEqual([]);
  });
  it('is first of all that nothing recolours it', () =>
    expect(whyOff(looked(frames([BLUE]), { recipe: null }))).toEqual([
      expect.stringContaining('Nothing recolours it'),
    ]));
  it('may be that the body’s colour is required and cannot be told from its sheen', () => {
    const ofBody = { ...(requirement as object), of: 'body' } as never;
    const said = (measured: object[]) => whyOff({ ...looked(measured), requirement: ofBody });
    expect(said(frames([BLUE]))).toContainEqual(expect.stringContaining('required of the body'));
    // what is told apart is compared: the body is as required, whatever the sheen adds
    const glossy = frames([BLUE]).map((f) => ({ ...f, after: { ...f.after, body: RED } }));
    expect(said(glossy)).toEqual([]);
  });
  it('may be light, matte, clipping, keyframes, sheen, drift, or the trim it has not', () => {
    const all = whyOff(
      looked(frames([BLUE, [0.2, 0.1, 0.4]], { coverage: 0.3, resultClippedShare: 0.4 }), {
        recipe: { repaint: { on: true, sheen: 1 }, animated: { s2: {} } },
      }),
    );
    const words = [
      '30 % of it is selected',
      'light is not taken',
      '40 % of it is clipped',
      'keyframes',
      'Sheen',
      'drifts',
      'no trim',
    ];
    expect(all).toHaveLength(words.length);
    words.forEach((w, i) => expect(all[i]).toContain(w));
  });
  it('names none of them where it is not so', () => {
    const fine = looked(frames([BLUE]), {
      shot: { light: { matrix: [1, 0, 0, 0, 1, 0, 0, 0, 1] } },
      recipe: { repaint: { on: true, sheen: 1 } },
      sighting: { body: {} },
    });
    expect(whyOff({ ...fine, isTrimmed: true })).toEqual([]);
    const inReference = { ...looked(frames([BLUE]), { shot: { id: 's1' } }), isTrimmed: true };
    expect(whyOff(inReference)).toEqual([]);
  });
});
