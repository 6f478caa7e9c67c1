import { drawHandle } from './tools/tool.ts';

/**
 * A line across the picture: where it passes (0..1 of the picture) and how it leans, degrees clockwise from upright.
 */
export interface Wipe {
  x: number;
  y: number;
  deg: number;
}
export type ScreenPoint = [number, number];
const TURN_ARM = 70;
const REACH = 10;

const along = (deg: number): ScreenPoint => [Math.sin((deg * Math.PI) / 180), -Math.cos((deg * Math.PI) / 180)];

/** Which part of the wipe lies under a screen place; `centre` is where its middle is on screen. */
export function wipeGripAt(wipe: Wipe, centre: ScreenPoint, x: number, y: number): 'move' | 'turn' | undefined {
  const [ax, ay] = along(wipe.deg);
  if (Math.hypot(centre[0] + ax * TURN_ARM - x, centre[1] + ay * TURN_ARM - y) < REACH) return 'turn';
  return Math.hypot(centre[0] - x, centre[1] - y) < REACH ? 'move' : undefined;
}

/** The lean after the turning handle was pulled to a screen place; upright and level catch within 3°. */
export function turnedTo(centre: ScreenPoint, x: number, y: number): number {
  const deg = (Math.atan2(x - centre[0], centre[1] - y) * 180) / Math.PI;
  const right = Math.round(deg / 90) * 90;
  return Math.abs(deg - right) < 3 ? right : Math.round(deg * 10) / 10;
}

/** Clips to the source's side of the line: the left of an upright wipe. */
export function clipToSource(context: CanvasRenderingContext2D, wipe: Wipe, [cx, cy]: ScreenPoint): void {
  const [ax, ay] = along(wipe.deg);
  const far = 1e4;
  context.beginPath();
  context.moveTo(cx + ax * far, cy + ay * far);
  context.lineTo(cx - ax * far, cy - ay * far);
  context.lineTo(cx - ax * far + ay * far, cy - ay * far - ax * far);
  context.lineTo(cx + ax * far + ay * far, cy + ay * far - ax * far);
  context.closePath();
  context.clip();
}

export function drawWipe(context: CanvasRenderingContext2D, wipe: Wipe, [cx, cy]: ScreenPoint): void {
  const [ax, ay] = along(wipe.deg);
  context.beginPath();
  context.moveTo(cx + ax * 1e4, cy + ay * 1e4);
  context.lineTo(cx - ax * 1e4, cy - ay * 1e4);
  context.lineWidth = 1;
  context.strokeStyle = 'rgba(255,255,255,0.8)';
  context.stroke();
  drawHandle(context, [cx, cy], 'round');
  drawHandle(context, [cx + ax * TURN_ARM, cy + ay * TURN_ARM], 'diamond');
}
