// One shot's band of the ribbon: a sliver of the measured colour for each frame.
import type { SightingMeasurements } from '@mellow/contract';
import { linearHex } from '../ui/colour.ts';

interface Band {
  /** The number of its first frame. */
  first: number;
  frames: number;
  isSighted: boolean;
  measured: SightingMeasurements['frames'];
  /** Hex of the required colour. */
  required: string | null;
  /** Frames with notes that are still to be seen to. */
  noted: readonly number[];
}

/** The frame at a share 0..1 of a band's width. */
export const frameAt = (share: number, frames: number): number =>
  Math.min(Math.max(Math.floor(share * frames), 0), frames - 1);

/**
 * Draws a band at its canvas's size on screen: measured colours, hatching where there are none, the required colour
 * through.
 */
export function drawBand(canvas: HTMLCanvasElement, { first, frames, noted, ...colours }: Band): void {
  const [w, h] = [canvas.clientWidth * devicePixelRatio, canvas.clientHeight * devicePixelRatio];
  Object.assign(canvas, { width: w, height: h });
  const g = canvas.getContext('2d')!;
  g.fillStyle = getComputedStyle(canvas).getPropertyValue('--base');
  g.fillRect(0, 0, w, h);
  const sliver = w / frames;
  drawColours(g, w, h, { first, frames, ...colours });
  for (const frame of noted) drawMark(g, (frame - first + 0.5) * sliver, h);
}

/** A note: a disc that is seen on any colour. */
function drawMark(g: CanvasRenderingContext2D, x: number, h: number): void {
  const radius = 4 * devicePixelRatio;
  const edge = radius + devicePixelRatio;
  g.beginPath();
  g.arc(Math.min(Math.max(x, edge), g.canvas.width - edge), h / 2, radius, 0, 2 * Math.PI);
  g.fillStyle = '#ffffff';
  g.fill();
  g.lineWidth = 1.5 * devicePixelRatio;
  g.strokeStyle = '#000000';
  g.stroke();
}

function drawColours(
  g: CanvasRenderingContext2D,
  w: number,
  h: number,
  { first, frames, isSighted, measured, required }: Omit<Band, 'noted'>,
): void {
  if (!isSighted) return;
  const sliver = w / frames;
  for (const { frame, after } of measured) {
    g.fillStyle = linearHex(after.meanLinear);
    g.fillRect(Math.floor((frame - first) * sliver), 0, Math.ceil(sliver) + 1, h);
  }
  const known = new Set(measured.map((m) => m.frame - first));
  if (known.size < frames) hatch(g, w, h, (x) => !known.has(Math.floor(x / sliver)));
  if (!required) return;
  g.fillStyle = required;
  g.fillRect(0, Math.round(h * 0.42), w, Math.max(Math.round(h * 0.16), 3));
}

/** Diagonal hatching where a frame has not been measured. */
function hatch(g: CanvasRenderingContext2D, w: number, h: number, where: (x: number) => boolean): void {
  g.strokeStyle = getComputedStyle(g.canvas).getPropertyValue('--line');
  g.lineWidth = 1;
  for (let x = -h; x < w; x += 8) {
    if (!where(Math.min(Math.max(x + h / 2, 0), w - 1))) continue;
    g.beginPath();
    g.moveTo(x, h);
    g.lineTo(x + h, 0);
    g.stroke();
  }
}
