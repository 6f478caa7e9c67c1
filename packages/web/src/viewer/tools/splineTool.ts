import type { Geometry, PathPoint } from '@mellow/contract';
import { drawHandle, strokeTwice, tracePath, type At, type ToolKey, type ViewerTool } from './tool.ts';

/**
 * Places points: a click is a corner, a drag pulls handles out; a click on the first point or Enter closes the path,
 * Delete takes the last one back.
 */
export class SplineTool implements ViewerTool {
  readonly cursor = 'crosshair';
  readonly #made: (geometry: Geometry) => void;
  #points: PathPoint[] = [];
  #pulling = false;
  #hover: At | undefined;
  constructor(made: (geometry: Geometry) => void) {
    this.#made = made;
  }
  down(at: At) {
    const first = this.#points[0];
    if (first && this.#points.length >= 3 && Math.hypot(first.x - at.x, first.y - at.y) < 9 * at.px)
      return this.#close();
    this.#points.push({ x: at.x, y: at.y, inX: 0, inY: 0, outX: 0, outY: 0 });
    this.#pulling = true;
  }
  move(at: At) {
    this.#hover = at;
    const last = this.#points.at(-1);
    if (!this.#pulling || !last) return;
    const [dx, dy] = [at.x - last.x, at.y - last.y];
    if (Math.hypot(dx, dy) > 4 * at.px) Object.assign(last, { outX: dx, outY: dy, inX: -dx, inY: -dy });
  }
  up() {
    this.#pulling = false;
  }
  key(key: ToolKey): boolean {
    if (this.#points.length === 0) return false;
    if (key === 'Escape') this.#points = [];
    else if (key === 'Delete') this.#points.pop();
    else if (this.#points.length >= 3) this.#close();
    return true;
  }
  #close() {
    this.#made({ form: 'spline', points: this.#points });
    this.#points = [];
  }
  draw(context: CanvasRenderingContext2D, to: (x: number, y: number) => [number, number]) {
    if (this.#points.length === 0) return;
    tracePath(context, this.#points, to, false);
    const [last, hover] = [this.#points.at(-1)!, this.#hover];
    if (hover && !this.#pulling)
      context.bezierCurveTo(
        ...to(last.x + last.outX, last.y + last.outY),
        ...to(hover.x, hover.y),
        ...to(hover.x, hover.y),
      );
    strokeTwice(context);
    for (const p of this.#points) drawHandle(context, to(p.x, p.y), 'round');
  }
}
