import {
  BAND_HUES,
  BEND_HANDLES,
  CURVE_POINTS,
  type Bands,
  type PlaneBend,
  type Curve,
  type Finer,
  type HueCurve,
  type Primaries,
  type Rgb,
  type FinerTool,
} from '../document/finer.ts';

const rgb = (v: number): Rgb => ({ red: v, green: v, blue: v });
export const NEUTRAL_PRIMARIES: Primaries = {
  exposureStops: 0,
  warmthMired: 0,
  tint: 0,
  gain: rgb(1),
  slope: rgb(1),
  offset: rgb(0),
  power: rgb(1),
  saturation: 1,
};
export const flatHueCurve = (v: number): HueCurve =>
  Object.fromEntries(BAND_HUES.map((hue) => [`${hue}`, v])) as HueCurve;
export const NEUTRAL_BANDS: Bands = { hue: flatHueCurve(0), saturation: flatHueCurve(1), density: flatHueCurve(0) };
export const NEUTRAL_BEND: PlaneBend = {
  reach: 0.08,
  ...(Object.fromEntries(BEND_HANDLES.map((name) => [name, { on: false, a: 0, b: 0, da: 0, db: 0 }])) as Omit<
    PlaneBend,
    'reach'
  >),
};
export const STRAIGHT_CURVE: Curve = Object.fromEntries(
  CURVE_POINTS.map((name, i) => [name, { at: i / 4, to: i / 4 }]),
) as Curve;

/** Tools that change nothing, all put aside. */
export const NEUTRAL_FINER: Finer = {
  primaries: { on: false, ...NEUTRAL_PRIMARIES },
  bands: { on: false, ...NEUTRAL_BANDS },
  bend: { on: false, ...NEUTRAL_BEND },
  dye: { on: false, concentration: 1 },
  tone: { on: false, ...STRAIGHT_CURVE },
  channels: { on: false, red: STRAIGHT_CURVE, green: STRAIGHT_CURVE, blue: STRAIGHT_CURVE },
  texture: { on: false, softenPx: 0, colourPx: 0, sharpen: 0 },
  guard: { on: false, knee: 0.8 },
  outside: { on: false, primaries: NEUTRAL_PRIMARIES, bands: NEUTRAL_BANDS },
};

/** Are all numbers of two objects of one shape the same? */
function isSame(a: unknown, b: unknown): boolean {
  if (typeof a !== 'object' || a === null) return a === b;
  return Object.entries(a).every(([key, value]) => isSame(value, (b as Record<string, unknown>)[key]));
}
export const isNeutralPrimaries = (p: Primaries): boolean => isSame(NEUTRAL_PRIMARIES, p);
export const isNeutralBands = (b: Bands): boolean => isSame(NEUTRAL_BANDS, b);
/** A curve is straight wherever its points lie on the diagonal. */
export const isStraight = (curve: Curve): boolean => CURVE_POINTS.every((name) => curve[name].at === curve[name].to);
const isPulled = (bend: PlaneBend): boolean =>
  BEND_HANDLES.some((name) => bend[name].on && (bend[name].da !== 0 || bend[name].db !== 0));

const AT_WORK: { [K in FinerTool]: (tool: Finer[K]) => boolean } = {
  primaries: (tool) => !isNeutralPrimaries(tool),
  bands: (tool) => !isNeutralBands(tool),
  bend: isPulled,
  dye: ({ concentration }) => concentration !== 1,
  tone: (tool) => !isStraight(tool),
  channels: ({ red, green, blue }) => ![red, green, blue].every(isStraight),
  texture: ({ softenPx, colourPx, sharpen }) => softenPx > 0 || colourPx > 0 || sharpen > 0,
  guard: ({ knee }) => knee < 1,
  outside: ({ primaries, bands }) => !isNeutralPrimaries(primaries) || !isNeutralBands(bands),
};
/** Is a tool on, and set to something? */
export const isAtWork = <K extends FinerTool>(name: K, tool: Finer[K]): boolean => tool.on && AT_WORK[name](tool);
