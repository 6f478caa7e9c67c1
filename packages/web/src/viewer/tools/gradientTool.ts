import type { Geometry } from '@mellow/contract';
import { strokeTwice, type At, type ToScreen, type ViewerTool } from './tool.ts';

/** Draws a gradient: from where α is full to where it has gone. Shift keeps it upright or level. */
export class GradientTool implements ViewerTool {
  readonly cursor = 'crosshair';
  readonly #made: (geometry: Geometry) => void;
  #line: { x0: number; y0: number; x1: number; y1: number } | undefined;
  constructor(made: (geometry: Geometry) => void) {
    this.#made = made;
  }
  down(at: At) {
    this.#line = { x0: at.x, y0: at.y, x1: at.x, y1: at.y };
  }
  move(at: At) {
    if (!this.#line) return;
    const { x0, y0 } = this.#line;
    const level = Math.abs(at.x - x0) > Math.abs(at.y - y0);
    this.#line = { x0, y0, x1: at.shift && !level ? x0 : at.x, y1: at.shift && level ? y0 : at.y };
  }
  up(at: At) {
    this.move(at);
    const line = this.#line;
    this.#line = undefined;
    if (line && Math.hypot(line.x1 - line.x0, line.y1 - line.y0) > 4 * at.px) this.#made({ form: 'gradient', ...line });
  }
  draw(context: CanvasRenderingContext2D, to: ToScreen) {
    if (!this.#line) return;
    context.beginPath();
    context.moveTo(...to(this.#line.x0, this.#line.y0));
    context.lineTo(...to(this.#line.x1, this.#line.y1));
    strokeTwice(context);
  }
}
