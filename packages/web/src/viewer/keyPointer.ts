// A pointer moved by keys, for whoever draws without a mouse: arrows move it, Space presses and lets go.
import type { Size } from './viewTransform.ts';
import type { ScreenPoint } from './wipe.ts';

const WAYS: Record<string, ScreenPoint> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
/** Screen pixels of one press: with Shift, plain, with Alt. */
const STEPS = { far: 40, plain: 8, near: 1 } as const;
const ARM = 9;

export interface KeyPress {
  key: string;
  shiftKey: boolean;
  altKey: boolean;
}
export type KeyPointerDid = 'moved' | 'pressed' | 'let go' | undefined;

export class KeyPointer {
  /** Where it is on the canvas; undefined until it is first moved or pressed, and after the mouse has moved. */
  at: ScreenPoint | undefined;
  #isDown = false;

  /** What a key has made of it; it begins in the middle of the view. */
  press({ key, shiftKey, altKey }: KeyPress, { width, height }: Size): KeyPointerDid {
    const way = WAYS[key];
    if (!way && key !== ' ') return undefined;
    const from = this.at ?? [width / 2, height / 2];
    if (!way) {
      this.at = from;
      this.#isDown = !this.#isDown;
      return this.#isDown ? 'pressed' : 'let go';
    }
    const small = altKey ? STEPS.near : STEPS.plain;
    const step = shiftKey ? STEPS.far : small;
    const within = (v: number, most: number) => Math.min(Math.max(v, 0), most);
    this.at = [within(from[0] + way[0] * step, width), within(from[1] + way[1] * step, height)];
    return 'moved';
  }
  /** Another pointer, or another tool, has taken over. */
  leave(): void {
    this.at = undefined;
    this.#isDown = false;
  }
  draw(context: CanvasRenderingContext2D): void {
    if (!this.at) return;
    const [x, y] = this.at;
    for (const [width, colour] of [
      [3, '#000'],
      [1.4, '#fff'],
    ] as const) {
      context.lineWidth = width;
      context.strokeStyle = colour;
      context.beginPath();
      context.moveTo(x - ARM, y);
      context.lineTo(x + ARM, y);
      context.moveTo(x, y - ARM);
      context.lineTo(x, y + ARM);
      context.stroke();
    }
  }
}
