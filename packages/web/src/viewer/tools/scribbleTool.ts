import type { Stroke } from '@mellow/contract';
import { strokeTwice, type At, type ToScreen, type ViewerTool } from './tool.ts';

/** Width of a stroke on screen, pixels: a wide one says more, whatever the zoom. */
const WIDTH_ON_SCREEN = 8;
/** Points nearer than this to the last, on screen, add nothing. */
const APART_ON_SCREEN = 4;
const MOST_POINTS = 2000;

/**
 * Draws a freehand stroke over what is in the selection, out of it, or partly in; a click is a dot. One that goes round
 * is closed by its ends, and a box with Shift; a click is none. Escape gives it up.
 */
export class ScribbleTool implements ViewerTool {
  readonly cursor = 'crosshair';
  readonly #sign: Stroke['sign'];
  readonly #drawn: (stroke: Stroke) => void;
  #stroke: Stroke | undefined;
  constructor(sign: Stroke['sign'], drawn: (stroke: Stroke) => void) {
    this.#sign = sign;
    this.#drawn = drawn;
  }
  down(at: At) {
    this.#stroke = { sign: this.#sign, widthPx: WIDTH_ON_SCREEN * at.px, points: [[at.x, at.y]] };
  }
  move(at: At) {
    const points = this.#stroke?.points;
    if (!points) return;
    if (this.#sign === 'around' && at.shift) {
      const [x, y] = points[0]!;
      return void points.splice(1, points.length, [at.x, y], [at.x, at.y], [x, at.y]);
    }
    if (points.length >= MOST_POINTS) return;
    const [x, y] = points.at(-1)!;
    if (Math.hypot(at.x - x, at.y - y) >= APART_ON_SCREEN * at.px) points.push([at.x, at.y]);
  }
  up(at: At) {
    this.move(at);
    const stroke = this.#stroke;
    this.#stroke = undefined;
    if (stroke && (this.#sign !== 'around' || stroke.points.length > 2)) this.#drawn(stroke);
  }
  key(key: string): boolean {
    if (key !== 'Escape' || !this.#stroke) return false;
    this.#stroke = undefined;
    return true;
  }
  draw(context: CanvasRenderingContext2D, to: ToScreen, ghosted: boolean) {
    const stroke = this.#stroke;
    if (!stroke) return;
    drawStroke(context, stroke, to, WIDTH_ON_SCREEN / stroke.widthPx, ghosted);
  }
}

/**
 * Light for in, dark for out, rimmed by the other, with a + or − where it begins; grey for what is partly in; a broken
 * line for what goes round: no hue of its own. `scale`: screen pixels a picture pixel takes.
 */
export function drawStroke(
  context: CanvasRenderingContext2D,
  { sign, widthPx, points }: Stroke,
  to: ToScreen,
  scale: number,
  ghosted: boolean,
): void {
  if (sign === 'around') return drawRound(context, points, to, ghosted);
  const width = Math.max(widthPx * scale, 2);
  const [own, rim] = LOOKS[sign];
  const start = to(...points[0]!);
  context.save();
  context.lineCap = context.lineJoin = 'round';
  context.globalAlpha = ghosted ? 0.2 : 0.65;
  context.beginPath();
  context.moveTo(...start);
  for (const [x, y] of points.slice(1)) context.lineTo(...to(x, y));
  if (points.length === 1) context.lineTo(start[0] + 0.01, start[1]);
  context.lineWidth = width + 2;
  context.strokeStyle = rim;
  context.stroke();
  context.lineWidth = width;
  context.strokeStyle = own;
  context.stroke();
  context.globalAlpha = ghosted ? 0.3 : 1;
  context.fillStyle = rim;
  const arm = Math.max(Math.min(width / 2 - 1, 4), 2);
  if (sign !== 'unsure') context.fillRect(start[0] - arm, start[1] - 0.75, 2 * arm, 1.5);
  if (sign === 'in') context.fillRect(start[0] - 0.75, start[1] - arm, 1.5, 2 * arm);
  context.restore();
}
const LOOKS = { in: ['#ffffff', '#000000'], out: ['#000000', '#ffffff'], unsure: ['#808080', '#000000'] } as const;

/** Where a stroke lies that says nothing there. */
export function drawSilent(
  context: CanvasRenderingContext2D,
  points: Stroke['points'],
  to: ToScreen,
  ghosted: boolean,
): void {
  context.save();
  context.globalAlpha = ghosted ? 0.2 : 0.6;
  context.beginPath();
  for (const [x, y] of points) context.lineTo(...to(x, y));
  if (points.length === 1) context.arc(...to(...points[0]!), 3, 0, 2 * Math.PI);
  strokeTwice(context);
  context.restore();
}

function drawRound(context: CanvasRenderingContext2D, points: Stroke['points'], to: ToScreen, ghosted: boolean): void {
  context.save();
  context.globalAlpha = ghosted ? 0.35 : 1;
  context.beginPath();
  for (const [x, y] of points) context.lineTo(...to(x, y));
  context.closePath();
  strokeTwice(context, true);
  context.restore();
}
