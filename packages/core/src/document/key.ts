/**
 * A window on one quantity: 1 on the core [lo, hi], falling to 0 over a margin of its own on either side.
 * Off, it lets everything pass.
 */
export interface Window {
  on: boolean;
  lo: number;
  hi: number;
  softLo: number;
  softHi: number;
}

/** A key of three windows in OKLCh: hue in degrees, chroma (0..about 0.33), lightness (0..1). */
export type RangeKey = { hue: Window; chroma: Window; lightness: Window };

/** Three windows on the encoded red, green and blue values (0..1), as a waveform shows them. */
export type RgbKey = { red: Window; green: Window; blue: Window };

/** One window on how light the picture is: `luma` = Y′ of the encoded values, `lightness` = OKLab L. */
export interface LumaKey {
  of: 'luma' | 'lightness';
  luma: Window;
}

/** A cloud of picked colours in OKLab: its mean and the inverse of its covariance. */
export interface Ellipsoid {
  mean: [number, number, number];
  /** Inverse covariance, row by row. */
  precision: [number, number, number, number, number, number, number, number, number];
}

/**
 * A key of colour clouds. Each add pick is an ellipsoid that pulls in, each remove pick one that pushes back;
 * distances are Mahalanobis distances (P. C. Mahalanobis 1936), so a cloth with deep folds gets a long ellipsoid.
 */
export interface SampleKey {
  positive: Ellipsoid[];
  negative: Ellipsoid[];
  /** Mahalanobis distance up to which α is 1, and the span over which it falls to 0. */
  tolerance: number;
  softness: number;
}

/** Every kind of key made from picked colours. */
export interface KeyByKind {
  range: RangeKey;
  rgb: RgbKey;
  luma: LumaKey;
  sample: SampleKey;
}

export type KeyKind = keyof KeyByKind;

/** Whether a key reads the picture as it came in or after the shot's balance. */
export type KeyReads = 'balanced' | 'unbalanced';

/**
 * Where colours were taken from the picture, and which, so that a key can be solved again. Rectangle in picture pixels.
 */
export interface PickedRegion {
  sign: 'add' | 'remove';
  frame: number;
  x0: number;
  y0: number;
  x1: number;
  y1: number;
  /** OKLab. */
  samples: { L: number; a: number; b: number }[];
}
