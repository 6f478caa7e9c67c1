/** A point of a closed cubic Bézier path, in full-resolution picture pixels; handles are offsets from the point. */
export interface PathPoint {
  x: number;
  y: number;
  inX: number;
  inY: number;
  outX: number;
  outY: number;
  /** Factor on the feather's widths here, ≥ 0, linear along the path to the next point's; 1 when left out. */
  feather?: number | undefined;
}

/**
 * What a shape may be. Rectangle and ellipse are given by centre, full size and turn (degrees, clockwise on screen).
 */
export type Geometry =
  | { form: 'rectangle'; cx: number; cy: number; width: number; height: number; turnDeg: number }
  | { form: 'ellipse'; cx: number; cy: number; width: number; height: number; turnDeg: number }
  | { form: 'spline'; points: PathPoint[] }
  /** α is 1 on the side of the first place and 0 on the side of the second, over the whole picture. */
  | { form: 'gradient'; x0: number; y0: number; x1: number; y1: number };

export type BoxGeometry = Extract<Geometry, { form: 'rectangle' | 'ellipse' }>;

/** A rigid change of a shape as a whole, about a pivot (picture pixels): what is animated apart from its path. */
export interface Placement {
  pivotX: number;
  pivotY: number;
  moveX: number;
  moveY: number;
  /** Clockwise on screen. */
  turnDeg: number;
  scaleX: number;
  scaleY: number;
  /** Sideways lean of upright lines, degrees, under ±90. */
  shearDeg: number;
  /** How much larger one side is than the other, per 1000 pixels: 0 is none. */
  perspectiveX: number;
  perspectiveY: number;
}

/** How α falls from the inner to the outer edge of the feather. */
export type Falloff = 'linear' | 'smooth';

export interface Feather {
  /** Widths either side of the path, full-resolution picture pixels, ≥ 0. */
  innerPx: number;
  outerPx: number;
  falloff: Falloff;
}

export interface ShapeMatte {
  geometry: Geometry;
  feather: Feather;
}
