import { strokeTwice, type At, type ViewerTool } from './tool.ts';

/** Takes colours from the picture: a click for a small square, a drag for a rectangle. */
export class PickTool implements ViewerTool {
  readonly cursor = 'crosshair';
  readonly #picked: (rect: { x0: number; y0: number; x1: number; y1: number }) => void;
  #from: At | undefined;
  #to: At | undefined;
  constructor(picked: (rect: { x0: number; y0: number; x1: number; y1: number }) => void) {
    this.#picked = picked;
  }
  down(at: At) {
    this.#from = this.#to = at;
  }
  move(at: At) {
    if (this.#from) this.#to = at;
  }
  up(at: At) {
    if (this.#from) this.#picked({ x0: this.#from.x, y0: this.#from.y, x1: at.x, y1: at.y });
    this.#from = this.#to = undefined;
  }
  draw(context: CanvasRenderingContext2D, to: (x: number, y: number) => [number, number]) {
    if (!this.#from || !this.#to) return;
    const [x0, y0] = to(this.#from.x, this.#from.y);
    const [x1, y1] = to(this.#to.x, this.#to.y);
    context.beginPath();
    context.rect(x0, y0, x1 - x0, y1 - y0);
    strokeTwice(context);
  }
}
