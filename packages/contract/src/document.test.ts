// The schemas and core's plain types of the document say the same: what one takes the other takes. Checked by the
// compiler.
import type * as core from '@mellow/core';
import { describe, expect, expectTypeOf, it } from 'vitest';
import { ENCODING_NAMES, KEY_KINDS, NEUTRAL_FINER } from '@mellow/core';
import {
  Encoding,
  KEYS,
  LAYERS,
  NO_FINER,
  type Animated,
  type Balance,
  type CleanUp,
  type Ease,
  type Feather,
  type Follow,
  type Freedom,
  type Geometry,
  type HoldOut,
  type KeyLayer,
  type Lab,
  type Layer,
  type PickedRegion,
  type Placement,
  type RangeKey,
  type RecipeNumbers,
  type Shift,
  type Sighting,
  type Spill,
  type Stroke,
  type Track,
  type Window,
} from './index.ts';

describe('types', () => {
  it('of numbers and their keyframes', () => {
    expectTypeOf<Ease>().toEqualTypeOf<core.Ease>();
    expectTypeOf<Animated>().toEqualTypeOf<core.Animated>();
  });
  it('of shapes and motions', () => {
    // two ways: what one takes the other takes
    expectTypeOf<Geometry>().toExtend<core.Geometry>();
    expectTypeOf<core.Geometry>().toExtend<Geometry>();
    expectTypeOf<Placement>().toEqualTypeOf<core.Placement>();
    expectTypeOf<Feather>().toEqualTypeOf<core.Feather>();
    expectTypeOf<Freedom>().toEqualTypeOf<core.Freedom>();
    expectTypeOf<Follow>().toExtend<core.Follow>();
    expectTypeOf<core.Follow>().toExtend<Follow>();
    expectTypeOf<Stroke>().toExtend<core.Stroke>();
    expectTypeOf<core.Stroke>().toExtend<Stroke>();
    expectTypeOf<HoldOut>().toExtend<core.HoldOut>();
    expectTypeOf<core.HoldOut>().toExtend<HoldOut>();
  });
  it('of keys, mattes and layers', () => {
    expectTypeOf<Window>().toEqualTypeOf<core.Window>();
    expectTypeOf<RangeKey>().toEqualTypeOf<core.RangeKey>();
    expectTypeOf<PickedRegion>().toEqualTypeOf<core.PickedRegion>();
    expectTypeOf<CleanUp>().toEqualTypeOf<core.CleanUp>();
    expectTypeOf<Spill>().toExtend<core.Spill>();
    expectTypeOf<core.Spill>().toExtend<Spill>();
    expectTypeOf<KeyLayer>().toExtend<core.KeyLayer>();
    expectTypeOf<core.KeyLayer>().toExtend<KeyLayer>();
    expectTypeOf<Layer>().toExtend<core.Layer>();
    expectTypeOf<core.Layer>().toExtend<Layer>();
    expectTypeOf<Sighting['layers']>().toExtend<core.Layer[]>();
  });
  it('of colours and tracks', () => {
    expectTypeOf<Shift>().toEqualTypeOf<core.Shift>();
    expectTypeOf<RecipeNumbers>().toExtend<core.RecipeNumbers>();
    expectTypeOf<core.RecipeNumbers>().toExtend<RecipeNumbers>();
    expectTypeOf<Balance>().toEqualTypeOf<core.Balance>();
    expectTypeOf<Lab>().toEqualTypeOf<core.Lab>();
    expectTypeOf<Encoding>().toEqualTypeOf<core.Encoding>();
    expectTypeOf<Omit<Track, 'id' | 'projectId' | 'shotId' | 'name'>>().toExtend<core.TrackNumbers>();
  });
});

describe('tables', () => {
  it('agree on the tools that change nothing', () => expect(NO_FINER).toEqual(NEUTRAL_FINER));
  it('name the same encodings', () => expect([...Encoding.options].sort()).toEqual([...ENCODING_NAMES].sort()));
  it('name the same kinds of key', () => expect(Object.keys(KEYS).sort()).toEqual([...KEY_KINDS].sort()));
  it('hold each layer under its own kind', () => {
    for (const [kind, schema] of Object.entries(LAYERS)) expect(schema.shape.kind.value).toBe(kind);
  });
});
