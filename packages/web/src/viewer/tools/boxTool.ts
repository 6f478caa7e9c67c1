import type { Geometry } from '@mellow/contract';
import { pathOf } from '@mellow/core';
import { strokeTwice, tracePath, type At, type ViewerTool } from './tool.ts';

/** Draws a rectangle or an ellipse from corner to corner; Shift keeps it square. */
export class BoxTool implements ViewerTool {
  readonly cursor = 'crosshair';
  readonly #form: 'rectangle' | 'ellipse';
  readonly #made: (geometry: Geometry) => void;
  #from: At | undefined;
  #geometry: Geometry | undefined;
  constructor(form: 'rectangle' | 'ellipse', made: (geometry: Geometry) => void) {
    this.#form = form;
    this.#made = made;
  }
  down(at: At) {
    this.#from = at;
  }
  move(at: At) {
    if (!this.#from) return;
    let [width, height] = [Math.abs(at.x - this.#from.x), Math.abs(at.y - this.#from.y)];
    if (at.shift) width = height = Math.max(width, height);
    const cx = this.#from.x + (Math.sign(at.x - this.#from.x) * width) / 2;
    const cy = this.#from.y + (Math.sign(at.y - this.#from.y) * height) / 2;
    this.#geometry = { form: this.#form, cx, cy, width, height, turnDeg: 0 };
  }
  up(at: At) {
    this.move(at);
    const g = this.#geometry;
    if (g && (g.form === 'rectangle' || g.form === 'ellipse') && g.width > 3 * at.px && g.height > 3 * at.px)
      this.#made(g);
    this.#from = this.#geometry = undefined;
  }
  draw(context: CanvasRenderingContext2D, to: (x: number, y: number) => [number, number]) {
    if (!this.#geometry) return;
    tracePath(context, pathOf(this.#geometry), to);
    strokeTwice(context);
  }
}
