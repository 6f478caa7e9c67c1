import type { Stroke } from '@mellow/contract';
import type { StrokeHere } from '../../commands/strokes.ts';
import { strokeTwice, type At, type ToolKey, type ToScreen, type ViewerTool } from './tool.ts';

/** How near, in screen pixels, the pointer must be to a stroke to hold it, and how far it goes before that moves. */
const REACH = 5;
const MOVED = 2;

/** What becomes of a stroke; undefined: it is taken away. */
type StrokeEvent = (at: number, stroke: Stroke | undefined, phase: 'drag' | 'done', what: string) => void;
export interface StrokeWork {
  chosen: (at: number | undefined) => void;
  changed: StrokeEvent;
}

/** Chooses the strokes of a scribble, moves them, and takes them away with Delete. */
export class StrokeTool implements ViewerTool {
  cursor = 'default';
  #strokes: readonly StrokeHere[];
  #chosen: number | undefined;
  readonly #work: StrokeWork;
  #held: { from: At; start: StrokeHere; now: Stroke; moved: boolean } | undefined;
  constructor(strokes: readonly StrokeHere[], chosen: number | undefined, work: StrokeWork) {
    this.#strokes = strokes;
    this.#chosen = chosen;
    this.#work = work;
  }
  /** Takes over strokes changed elsewhere, unless the hand is on one. */
  sync(strokes: readonly StrokeHere[], chosen: number | undefined) {
    if (this.#held) return;
    this.#strokes = strokes;
    this.#chosen = chosen;
  }
  #over(at: At): StrokeHere | undefined {
    let [hit, nearest]: [StrokeHere | undefined, number] = [undefined, REACH * at.px];
    for (const each of this.#strokes) {
      const distance = distanceTo(each.stroke, at.x, at.y);
      if (distance <= nearest) [hit, nearest] = [each, distance];
    }
    return hit;
  }
  down(at: At) {
    const start = this.#over(at);
    this.#choose(start?.at);
    if (start) this.#held = { from: at, start, now: start.stroke, moved: false };
  }
  #choose(at: number | undefined) {
    if (at === this.#chosen) return;
    this.#chosen = at;
    this.#work.chosen(at);
  }
  move(at: At) {
    this.cursor = (this.#held ?? this.#over(at)) ? 'move' : 'default';
    const held = this.#held;
    if (!held) return;
    const [dx, dy] = [at.x - held.from.x, at.y - held.from.y];
    held.moved ||= Math.hypot(dx, dy) > MOVED * at.px;
    if (!held.moved) return;
    held.now = movedBy(held.start.stroke, dx, dy);
    this.#work.changed(held.start.at, held.now, 'drag', '');
  }
  up(at: At) {
    this.move(at);
    const held = this.#held;
    this.#held = undefined;
    if (held?.moved) this.#work.changed(held.start.at, held.now, 'done', 'Move a stroke');
  }
  key(key: ToolKey): boolean {
    const chosen = this.#chosen;
    if (key === 'Enter' || chosen === undefined) return false;
    this.#choose(undefined);
    if (key === 'Delete') this.#work.changed(chosen, undefined, 'done', 'Remove a stroke');
    return true;
  }
  nudge(dx: number, dy: number): boolean {
    const chosen = this.#strokes.find(({ at }) => at === this.#chosen);
    if (!chosen) return false;
    this.#work.changed(chosen.at, movedBy(chosen.stroke, dx, dy), 'done', 'Nudge a stroke');
    return true;
  }
  /** A broken line along the chosen stroke. */
  draw(context: CanvasRenderingContext2D, to: ToScreen) {
    const chosen = this.#held?.now ?? this.#strokes.find(({ at }) => at === this.#chosen)?.stroke;
    if (!chosen) return;
    const [first] = chosen.points as [[number, number]];
    context.beginPath();
    if (chosen.points.length === 1) context.arc(...to(...first), 8, 0, 2 * Math.PI);
    else for (const [x, y] of chosen.points) context.lineTo(...to(x, y));
    strokeTwice(context, true);
  }
}

const movedBy = (stroke: Stroke, dx: number, dy: number): Stroke => ({
  ...stroke,
  points: stroke.points.map(([x, y]) => [x + dx, y + dy]),
});

/** How far a place is from what a stroke covers, or from the line of one that goes round; 0 on it. */
function distanceTo({ sign, points, widthPx }: Stroke, x: number, y: number): number {
  let nearest = Infinity;
  points.forEach(([x0, y0], i) => {
    const [x1, y1] = points[i + 1] ?? (sign === 'around' ? points[0]! : [x0, y0]);
    const [dx, dy] = [x1 - x0, y1 - y0];
    const t = Math.min(Math.max(((x - x0) * dx + (y - y0) * dy) / (dx * dx + dy * dy || 1), 0), 1);
    nearest = Math.min(nearest, Math.hypot(x - x0 - t * dx, y - y0 - t * dy));
  });
  return sign === 'around' ? nearest : Math.max(nearest - widthPx / 2, 0);
}
