// The finer tools of a recipe: plain structures of fixed shape, every number of them with a dotted name.

/** A number for each channel. */
export interface Rgb {
  red: number;
  green: number;
  blue: number;
}

/** Corrections of all colours alike, in the order of their application; see core/recolour/primaries. */
export interface Primaries {
  /** Stops: linear light × 2^exposureStops. */
  exposureStops: number;
  /** Along the daylight locus, mired: positive is warmer. */
  warmthMired: number;
  /** Across it, thousandths of Duv (CIE 1960 UCS): positive is greener, negative more magenta. */
  tint: number;
  /** Factors on linear BT.709 light. */
  gain: Rgb;
  /** ASC CDL v1.2, on sRGB codes. */
  slope: Rgb;
  offset: Rgb;
  power: Rgb;
  saturation: number;
}

/** The hues, OKLCh degrees, at which a hue band has a handle. */
export const BAND_HUES = [0, 30, 60, 90, 120, 150, 180, 210, 240, 270, 300, 330] as const;
export type BandHue = `${(typeof BAND_HUES)[number]}`;
/** A number at each of these hues; a smooth periodic curve runs through them. */
export type HueCurve = Record<BandHue, number>;
/** What becomes of a colour by its hue. */
export interface Bands {
  /** Degrees added. */
  hue: HueCurve;
  /** Factor on chroma. */
  saturation: HueCurve;
  /** Optical density added. */
  density: HueCurve;
}

/** One handle of a bend: the place (a, b) of OKLab's plane goes to (a + da, b + db). */
export interface BendHandle {
  on: boolean;
  a: number;
  b: number;
  da: number;
  db: number;
}
export const BEND_HANDLES = ['first', 'second', 'third', 'fourth'] as const;
export type BendName = (typeof BEND_HANDLES)[number];
/** Pulls the plane of hue and chroma by its handles; `reach` is how far round each one, in OKLab's a and b. */
export type PlaneBend = { reach: number } & Record<BendName, BendHandle>;

/** The points of a curve, from dark to light. */
export const CURVE_POINTS = ['black', 'shadow', 'middle', 'light', 'white'] as const;
export type CurvePoint = (typeof CURVE_POINTS)[number];
/** A monotone curve through five points, 0..1 both ways: what is `at` becomes `to`. */
export type Curve = Record<CurvePoint, { at: number; to: number }>;

export interface Texture {
  /** Gaussian σ inside the matte, full-resolution pixels: of all, or of the colour alone with the light kept. */
  softenPx: number;
  colourPx: number;
  /** How much of the fine detail is added once more, 0..2. */
  sharpen: number;
}

/** A tool that can be put aside without being forgotten. */
type Tool<T> = { on: boolean } & T;

/** All finer tools of a recipe. */
export interface Finer {
  primaries: Tool<Primaries>;
  bands: Tool<Bands>;
  bend: Tool<PlaneBend>;
  /** Times as much dye as there is: Beer–Lambert's law on each channel. */
  dye: Tool<{ concentration: number }>;
  /** On OKLab's lightness. */
  tone: Tool<Curve>;
  /** On sRGB codes. */
  channels: Tool<Record<keyof Rgb, Curve>>;
  texture: Tool<Texture>;
  /** Colours past this share of the chroma that the shot's encoding can hold are pressed into what is left of it. */
  guard: Tool<{ knee: number }>;
  /** What no piece's matte selects. */
  outside: Tool<{ primaries: Primaries; bands: Bands }>;
}
export type FinerTool = keyof Finer;
