// OKLab's a, b plane as a round field: hue round it, from the right and against the clock; chroma outward.
import { FIELD_REACH, type Oklab } from '@mellow/core';

type Plane = Pick<Oklab, 'a' | 'b'>;

export interface PolarMap {
  /** The side of its square, px. */
  readonly size: number;
  /** Where the chroma is FIELD_REACH, px from the middle. */
  readonly radius: number;
  /** Where a colour lies, px from the upper left corner. */
  readonly placeOf: (colour: Plane) => [x: number, y: number];
  /** The colour of a place, at any lightness. */
  readonly colourAt: (x: number, y: number) => Plane;
}

/** A field of `size` pixels that leaves `margin` free all round. */
export function polarMap(size: number, margin: number): PolarMap {
  const [middle, radius] = [size / 2, size / 2 - margin];
  return {
    size,
    radius,
    placeOf: ({ a, b }) => [middle + (a / FIELD_REACH) * radius, middle - (b / FIELD_REACH) * radius],
    colourAt: (x, y) => ({ a: ((x - middle) / radius) * FIELD_REACH, b: ((middle - y) / radius) * FIELD_REACH }),
  };
}
export const planeOf = (C: number, hDeg: number): Plane => ({
  a: C * Math.cos((hDeg * Math.PI) / 180),
  b: C * Math.sin((hDeg * Math.PI) / 180),
});
