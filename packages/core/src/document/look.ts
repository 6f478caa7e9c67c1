import type { Curve } from './finer.ts';

/** The numbers of an ASC CDL v1.2, on code values: slope, offset and power by channel, then saturation. */
export interface Cdl {
  slope: [number, number, number];
  offset: [number, number, number];
  power: [number, number, number];
  saturation: number;
}
/** Curves on code values: one of all channels, then one of each. */
export interface LookCurves {
  tone: Curve;
  red: Curve;
  green: Curve;
  blue: Curve;
}
