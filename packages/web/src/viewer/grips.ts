// Who has the pointer: on a press the first grip that takes it keeps it until it is let go.
import type { Comparison } from './comparison.ts';
import type { Dot } from './overlays.ts';
import type { At, ViewerTool } from './tools/tool.ts';
import type { Size, ViewTransform } from './viewTransform.ts';
import { turnedTo, wipeGripAt, type ScreenPoint } from './wipe.ts';

/** The pointer: where it is on the canvas (screen pixels) and on the picture, and what is pressed. */
export interface Pointer {
  screen: ScreenPoint;
  at: At;
  button: number;
  /** Space is held down: the view is moved whatever the tool. */
  space: boolean;
}
/** One thing that the pointer can hold. */
export interface Grip {
  /** True when it takes the press. */
  down(pointer: Pointer): boolean;
  move(pointer: Pointer): void;
  up(pointer: Pointer): void;
}

const clamped = (v: number): number => Math.min(Math.max(v, 0), 1);

/** The line of a wipe: moved by its middle, turned by its arm. */
export class WipeGrip implements Grip {
  readonly #comparison: Comparison;
  readonly #view: ViewTransform;
  readonly #full: () => Size;
  readonly #done: () => void;
  #part: 'move' | 'turn' | undefined;
  constructor(comparison: Comparison, view: ViewTransform, full: () => Size, done: () => void) {
    this.#comparison = comparison;
    this.#view = view;
    this.#full = full;
    this.#done = done;
  }
  get isHeld(): boolean {
    return this.#part !== undefined;
  }
  /** Where the wipe's middle is on screen. */
  get middle(): ScreenPoint {
    const { wipe } = this.#comparison;
    const { zoom, x, y } = this.#view;
    return [x + wipe.x * this.#full().width * zoom, y + wipe.y * this.#full().height * zoom];
  }
  down({ button, screen }: Pointer): boolean {
    if (button !== 0 || this.#comparison.mode !== 'wipe') return false;
    this.#part = wipeGripAt(this.#comparison.wipe, this.middle, ...screen);
    return this.isHeld;
  }
  move({ screen: [sx, sy] }: Pointer): void {
    const { wipe } = this.#comparison;
    const { zoom, x, y } = this.#view;
    if (this.#part === 'turn') this.#comparison.wipe = { ...wipe, deg: turnedTo(this.middle, sx, sy) };
    else
      this.#comparison.wipe = {
        ...wipe,
        x: clamped((sx - x) / zoom / this.#full().width),
        y: clamped((sy - y) / zoom / this.#full().height),
      };
  }
  up(): void {
    this.#part = undefined;
    this.#done();
  }
}

/** The view itself: with the middle button, with Space held, or when there is no tool. */
export class PanGrip implements Grip {
  readonly #view: ViewTransform;
  readonly #hasTool: () => boolean;
  #from: ScreenPoint = [0, 0];
  constructor(view: ViewTransform, hasTool: () => boolean) {
    this.#view = view;
    this.#hasTool = hasTool;
  }
  down({ button, space, screen }: Pointer): boolean {
    this.#from = screen;
    return button === 1 || space || !this.#hasTool();
  }
  move({ screen }: Pointer): void {
    this.#view.pan(screen[0] - this.#from[0], screen[1] - this.#from[1]);
    this.#from = screen;
  }
  up(): void {
    // it stays where it was let go
  }
}

/** Screen pixels within which a dot is taken hold of, and beyond which letting go counts as having moved it. */
const DOT_REACH = 8;
const DOT_MOVED = 2;

/** A dot of a pick, moved elsewhere. */
export class DotGrip implements Grip {
  dots: readonly Dot[] = [];
  readonly #moved: (index: number, to: { x: number; y: number }) => void;
  #held: { index: number; at: At } | undefined;
  constructor(moved: (index: number, to: { x: number; y: number }) => void) {
    this.#moved = moved;
  }
  /** The dots as they are shown: the one in hand where the hand is. */
  get shown(): readonly Dot[] {
    const held = this.#held;
    return held ? this.dots.map((d, i) => (i === held.index ? { ...d, x: held.at.x, y: held.at.y } : d)) : this.dots;
  }
  down({ button, at }: Pointer): boolean {
    if (button !== 0) return false;
    const index = this.dots.findIndex((d) => Math.hypot(d.x - at.x, d.y - at.y) < DOT_REACH * at.px);
    this.#held = index >= 0 ? { index, at } : undefined;
    return this.#held !== undefined;
  }
  move({ at }: Pointer): void {
    if (this.#held) this.#held = { ...this.#held, at };
  }
  up(): void {
    const held = this.#held;
    this.#held = undefined;
    const from = held && this.dots[held.index];
    if (!from) return;
    const far = Math.hypot(from.x - held.at.x, from.y - held.at.y) > DOT_MOVED * held.at.px;
    if (far) this.#moved(held.index, { x: held.at.x, y: held.at.y });
  }
}

/** The chosen tool takes whatever nothing else has taken. */
export class ToolGrip implements Grip {
  tool: ViewerTool | undefined;
  down({ button, at }: Pointer): boolean {
    if (button !== 0 || !this.tool) return false;
    this.tool.down(at);
    return true;
  }
  move({ at }: Pointer): void {
    this.tool?.move(at);
  }
  up({ at }: Pointer): void {
    this.tool?.up(at);
  }
}
