// The finer tools of a recipe; see core/document/finer for what each number means.
import { z } from 'zod';

const rgb = (min: number, max: number) => {
  const channel = z.number().min(min).max(max);
  return z.object({ red: channel, green: channel, blue: channel });
};
export const Primaries = z.object({
  exposureStops: z.number().min(-8).max(8),
  warmthMired: z.number().min(-60).max(90),
  tint: z.number().min(-50).max(50),
  gain: rgb(0, 8),
  slope: rgb(0, 8),
  offset: rgb(-1, 1),
  power: rgb(0.1, 8),
  saturation: z.number().min(0).max(4),
});
export type Primaries = z.infer<typeof Primaries>;

const hueCurve = (min: number, max: number) => {
  const at = z.number().min(min).max(max);
  // prettier-ignore
  return z.object({
    '0': at, '30': at, '60': at, '90': at, '120': at, '150': at,
    '180': at, '210': at, '240': at, '270': at, '300': at, '330': at,
  });
};
export const Bands = z.object({ hue: hueCurve(-180, 180), saturation: hueCurve(0, 4), density: hueCurve(-2, 2) });
export type Bands = z.infer<typeof Bands>;

const place = z.number().min(-1).max(1);
const BendHandle = z.object({ on: z.boolean(), a: place, b: place, da: place, db: place });
const Bend = z.object({
  reach: z.number().min(0.01).max(0.5),
  first: BendHandle,
  second: BendHandle,
  third: BendHandle,
  fourth: BendHandle,
});

const point = z.object({ at: z.number().min(0).max(1), to: z.number().min(0).max(1) });
export const Curve = z.object({ black: point, shadow: point, middle: point, light: point, white: point });

const Texture = z.object({
  softenPx: z.number().min(0).max(20),
  colourPx: z.number().min(0).max(20),
  sharpen: z.number().min(0).max(2),
});

const on = { on: z.boolean() };
export const Finer = z.object({
  primaries: Primaries.extend(on),
  bands: Bands.extend(on),
  bend: Bend.extend(on),
  dye: z.object({ ...on, concentration: z.number().min(0.1).max(8) }),
  tone: Curve.extend(on),
  channels: z.object({ ...on, red: Curve, green: Curve, blue: Curve }),
  texture: Texture.extend(on),
  guard: z.object({ ...on, knee: z.number().min(0).max(1) }),
  outside: z.object({ ...on, primaries: Primaries, bands: Bands }),
});
export type Finer = z.infer<typeof Finer>;

const each = (v: number) => ({ red: v, green: v, blue: v });
const PRIMARIES: Primaries = {
  exposureStops: 0,
  warmthMired: 0,
  tint: 0,
  gain: each(1),
  slope: each(1),
  offset: each(0),
  power: each(1),
  saturation: 1,
};
const flat = (v: number) => Object.fromEntries(Object.keys(Bands.shape.hue.shape).map((hue) => [hue, v]));
const BANDS = { hue: flat(0), saturation: flat(1), density: flat(0) } as Bands;
const HANDLE = { on: false, a: 0, b: 0, da: 0, db: 0 };
const at = (v: number) => ({ at: v, to: v });
const STRAIGHT = { black: at(0), shadow: at(0.25), middle: at(0.5), light: at(0.75), white: at(1) };
/** All tools put aside: what recipes stored before there were any have. */
export const NO_FINER: Finer = {
  primaries: { on: false, ...PRIMARIES },
  bands: { on: false, ...BANDS },
  bend: { on: false, reach: 0.08, first: HANDLE, second: HANDLE, third: HANDLE, fourth: HANDLE },
  dye: { on: false, concentration: 1 },
  tone: { on: false, ...STRAIGHT },
  channels: { on: false, red: STRAIGHT, green: STRAIGHT, blue: STRAIGHT },
  texture: { on: false, softenPx: 0, colourPx: 0, sharpen: 0 },
  guard: { on: false, knee: 0.8 },
  outside: { on: false, primaries: PRIMARIES, bands: BANDS },
};
