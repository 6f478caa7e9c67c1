import type { Stroke } from '@mellow/contract';
import { strokeTwice, type At, type ToScreen, type ViewerTool } from './tool.ts';

/** Width of the dot on screen, pixels. */
const DOT_ON_SCREEN = 8;
/** By how much a unit of the wheel lets it grow. */
const PER_WHEEL_UNIT = 1.0012;

/** A click selects what it falls on; the wheel then has it grow and shrink. Escape lets the wheel zoom again. */
export class GrowTool implements ViewerTool {
  readonly cursor = 'crosshair';
  readonly #firstReach: number;
  readonly #placed: (stroke: Stroke) => void;
  readonly #grown: (factor: number) => boolean;
  #isGrowing = false;
  #at: At | undefined;
  constructor(firstReach: number, placed: (stroke: Stroke) => void, grown: (factor: number) => boolean) {
    this.#firstReach = firstReach;
    this.#placed = placed;
    this.#grown = grown;
  }
  down(at: At) {
    this.#isGrowing = true;
    this.#placed({ sign: 'in', widthPx: DOT_ON_SCREEN * at.px, points: [[at.x, at.y]], reach: this.#firstReach });
  }
  move(at: At) {
    this.#at = at;
  }
  up() {
    // it was placed by the press
  }
  leave() {
    this.#at = undefined;
  }
  wheel(turned: number): boolean {
    return this.#isGrowing && this.#grown(PER_WHEEL_UNIT ** -turned);
  }
  key(key: string): boolean {
    if (key !== 'Escape' || !this.#isGrowing) return false;
    this.#isGrowing = false;
    return true;
  }
  draw(context: CanvasRenderingContext2D, to: ToScreen) {
    if (!this.#at) return;
    context.beginPath();
    context.arc(...to(this.#at.x, this.#at.y), 9, 0, 2 * Math.PI);
    strokeTwice(context, true);
  }
}
