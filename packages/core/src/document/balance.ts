/** A shot's base correction, before anything is isolated. */
export interface Balance {
  /** Stops: linear light × 2^exposureStops. */
  exposureStops: number;
  /** Mired by which the light is taken to be warmer (+) or cooler (−) than daylight of 6504 K; −60..90. */
  warmthMired: number;
  /** ASC CDL v1.2 on encoded values, per channel R, G, B; then its saturation. */
  slope: [number, number, number];
  offset: [number, number, number];
  power: [number, number, number];
  saturation: number;
}
