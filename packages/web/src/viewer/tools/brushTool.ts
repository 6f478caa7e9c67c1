import type { Passage, PaintSign } from '../../commands/painting.ts';
import { strokeTwice, type At, type ToScreen, type ViewerTool } from './tool.ts';

/** Places nearer than this to the last, on screen, add nothing. */
const APART_ON_SCREEN = 3;
const MOST_POINTS = 2000;

/**
 * Paints with a round brush: freehand, or straight with Shift; a click is a dot. A pen's pressure makes it narrower.
 * Escape gives the stroke up. `widthPx` is asked with every move.
 */
export class BrushTool implements ViewerTool {
  readonly cursor = 'crosshair';
  readonly #sign: PaintSign;
  readonly #widthPx: () => number;
  readonly #painted: (points: Passage) => void;
  #points: Passage | undefined;
  #at: At | undefined;
  constructor(sign: PaintSign, widthPx: () => number, painted: (points: Passage) => void) {
    this.#sign = sign;
    this.#widthPx = widthPx;
    this.#painted = painted;
  }
  down(at: At) {
    this.#points = [[at.x, at.y, at.pressure]];
    this.#at = at;
  }
  move(at: At) {
    this.#at = at;
    const points = this.#points;
    if (!points) return;
    const here: Passage[number] = [at.x, at.y, at.pressure];
    if (at.shift) return void points.splice(1, points.length, here);
    const [x, y] = points.at(-1)!;
    if (points.length < MOST_POINTS && Math.hypot(at.x - x, at.y - y) >= APART_ON_SCREEN * at.px) points.push(here);
  }
  up(at: At) {
    // a pen that is lifted presses no more
    this.move({ ...at, pressure: this.#points?.at(-1)?.[2] ?? at.pressure });
    if (this.#points) this.#painted(this.#points);
    this.#points = undefined;
  }
  leave() {
    this.#at = undefined;
  }
  key(key: string): boolean {
    if (key !== 'Escape' || !this.#points) return false;
    this.#points = undefined;
    return true;
  }
  draw(context: CanvasRenderingContext2D, to: ToScreen, ghosted: boolean) {
    const at = this.#at;
    if (!at) return;
    const width = this.#widthPx() / at.px;
    context.save();
    context.lineCap = context.lineJoin = 'round';
    if (this.#points) this.#drawPassage(context, to, width, ghosted);
    context.beginPath();
    context.arc(...to(at.x, at.y), width / 2, 0, 2 * Math.PI);
    strokeTwice(context, this.#sign === 'smooth');
    context.restore();
  }
  /** Light for what comes in, dark for what goes out, no hue of its own; as one, however often it crosses itself. */
  #drawPassage(context: CanvasRenderingContext2D, to: ToScreen, width: number, ghosted: boolean) {
    const { canvas } = context;
    const passage = new OffscreenCanvas(canvas.width, canvas.height).getContext('2d')!;
    passage.setTransform(context.getTransform());
    passage.lineCap = passage.lineJoin = 'round';
    passage.strokeStyle = this.#sign === 'out' ? '#000000' : '#ffffff';
    const points = this.#points!;
    points.forEach((from, i) => {
      const next = points[i + 1] ?? (i === 0 ? from : undefined);
      if (!next) return;
      const [x, y] = to(next[0], next[1]);
      passage.beginPath();
      passage.moveTo(...to(from[0], from[1]));
      passage.lineTo(x + 0.01, y);
      passage.lineWidth = Math.max((width * (from[2] + next[2])) / 2, 1);
      passage.stroke();
    });
    context.save();
    context.resetTransform();
    context.globalAlpha = ghosted ? 0.15 : 0.45;
    context.drawImage(passage.canvas, 0, 0);
    context.restore();
  }
}
