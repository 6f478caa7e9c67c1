// Where the picture lies on screen: zoom, pan, and the map that holds a track still.
import { inverted, jacobianAt, project, type Homography } from '@mellow/core';

export interface Size {
  width: number;
  height: number;
}
/** Affine map of picture pixels: x′ = a·x + c·y + e, y′ = b·x + d·y + f. */
interface Affine {
  a: number;
  b: number;
  c: number;
  d: number;
  e: number;
  f: number;
}
const STILL: Affine = { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 };

const LEAST_ZOOM = 0.02;
const MOST_ZOOM = 64;
/** Screen pixels left free round a picture that is fitted in. */
const MARGIN = 24;

export class ViewTransform {
  /** Screen pixels a full-resolution pixel takes, and where the picture's corner lies. */
  zoom = 1;
  x = 0;
  y = 0;
  /** The whole picture is in view, and stays so when the view changes its size. */
  isFitted = true;
  #held: Affine | undefined;

  get isHeld(): boolean {
    return this.#held !== undefined;
  }
  /** Screen pixels that a picture pixel takes, the held track's own scale included. */
  get scale(): number {
    const { a, b, c, d } = this.#held ?? STILL;
    return this.zoom * Math.sqrt(Math.abs(a * d - b * c));
  }
  /** Fits a picture into the middle of a view; `paneWidth` is the part of its width that the picture may take. */
  fit(full: Size, view: Size, paneWidth: number): void {
    this.zoom = Math.min((paneWidth - MARGIN) / full.width, (view.height - MARGIN) / full.height);
    this.x = (view.width - this.zoom * full.width) / 2;
    this.y = (view.height - this.zoom * full.height) / 2;
    this.isFitted = true;
  }
  /** Zooms about a point of the screen, which stays where it is. */
  zoomAbout(zoom: number, x: number, y: number): void {
    const next = Math.min(Math.max(zoom, LEAST_ZOOM), MOST_ZOOM);
    const k = next / this.zoom;
    this.x = x - (x - this.x) * k;
    this.y = y - (y - this.y) * k;
    this.zoom = next;
    this.isFitted = false;
  }
  pan(dx: number, dy: number): void {
    this.x += dx;
    this.y += dy;
    this.isFitted = false;
  }
  /**
   * Holds a track still: the picture is moved, turned and scaled against the track's motion, exactly at `centre`
   * (picture pixels of the reference frame) and nearly round it. Undefined lets it move again.
   */
  hold(motion: Homography | undefined, centre: readonly [number, number]): void {
    this.#held = undefined;
    if (!motion) return;
    const [u, v] = project(motion, ...centre);
    const [a, c, b, d] = jacobianAt(inverted(motion), u, v);
    this.#held = { a, b, c, d, e: centre[0] - a * u - c * v, f: centre[1] - b * u - d * v };
  }
  toScreen = (px: number, py: number): [number, number] => {
    const { a, b, c, d, e, f } = this.#held ?? STILL;
    return [(a * px + c * py + e) * this.zoom + this.x, (b * px + d * py + f) * this.zoom + this.y];
  };
  toPicture(sx: number, sy: number): { x: number; y: number } {
    const { a, b, c, d, e, f } = this.#held ?? STILL;
    const det = a * d - b * c;
    const [dx, dy] = [(sx - this.x) / this.zoom - e, (sy - this.y) / this.zoom - f];
    return { x: (d * dx - c * dy) / det, y: (a * dy - b * dx) / det };
  }
  /** Lets a canvas draw in picture pixels. */
  apply(context: CanvasRenderingContext2D): void {
    const { a, b, c, d, e, f } = this.#held ?? STILL;
    const { zoom: z, x, y } = this;
    context.transform(z * a, z * b, z * c, z * d, z * e + x, z * f + y);
  }
}
