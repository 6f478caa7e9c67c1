// The source beside, over or in turn with what is shown.
import type { Compare } from '../view/lookSlice.ts';
import type { Size } from './viewTransform.ts';
import { clipToSource, drawWipe, type ScreenPoint, type Wipe } from './wipe.ts';

const BLINK_MS = 600;

interface Pictures {
  picture: () => void;
  source: () => void;
}

export class Comparison {
  wipe: Wipe = { x: 0.5, y: 0.5, deg: 0 };
  #mode: Compare = 'off';
  #timer: ReturnType<typeof setInterval> | undefined;
  #isSourceTurn = false;

  get mode(): Compare {
    return this.#mode;
  }
  /** True when the mode has changed. `blinked` is called whenever the other picture's turn has come. */
  setMode(mode: Compare, blinked: () => void): boolean {
    if (mode === this.#mode) return false;
    this.#mode = mode;
    this.#isSourceTurn = false;
    clearInterval(this.#timer);
    if (mode === 'blink')
      this.#timer = setInterval(() => {
        this.#isSourceTurn = !this.#isSourceTurn;
        blinked();
      }, BLINK_MS);
    return true;
  }
  close(): void {
    clearInterval(this.#timer);
  }
  /** The part of the view's width that one picture has. */
  paneWidth(width: number): number {
    return this.#mode === 'side by side' ? width / 2 : width;
  }
  /** Side by side, the source is shown a quarter of the width to the left, the view as far to the right. */
  shiftAt(screenX: number, width: number): number {
    if (this.#mode !== 'side by side') return 0;
    return screenX < width / 2 ? -width / 4 : width / 4;
  }
  /** Draws both pictures as the mode has it; `middle` is where the wipe's middle is on screen. */
  drawPictures(context: CanvasRenderingContext2D, { width, height }: Size, middle: ScreenPoint, drawn: Pictures): void {
    if (this.#mode === 'side by side') {
      inPane(context, [0, width / 2], height, -width / 4, drawn.source);
      inPane(context, [width / 2, width], height, width / 4, drawn.picture);
      context.fillStyle = 'rgba(128,128,128,0.8)';
      context.fillRect(width / 2 - 0.5, 0, 1, height);
      return;
    }
    if (this.#mode === 'blink' && this.#isSourceTurn) drawn.source();
    else drawn.picture();
    if (this.#mode === 'wipe') {
      context.save();
      clipToSource(context, this.wipe, middle);
      drawn.source();
      context.restore();
    }
  }
  /** Draws what lies over the picture (shapes, dots, handles) where that is shown, and the wipe itself. */
  drawOver(context: CanvasRenderingContext2D, { width, height }: Size, middle: ScreenPoint, overlay: () => void): void {
    if (this.#mode === 'side by side') return inPane(context, [width / 2, width], height, width / 4, overlay);
    overlay();
    if (this.#mode === 'wipe') drawWipe(context, this.wipe, middle);
  }
}

function inPane(
  context: CanvasRenderingContext2D,
  [from, to]: readonly [number, number],
  height: number,
  shift: number,
  draw: () => void,
): void {
  context.save();
  context.beginPath();
  context.rect(from, 0, to - from, height);
  context.clip();
  context.translate(shift, 0);
  draw();
  context.restore();
}
