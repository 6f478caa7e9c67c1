import type { Size, ViewTransform } from './viewTransform.ts';

/** From this zoom on the pixels of the picture are ruled. */
export const GRID_ZOOM = 8;

/** Rules the pixels of the picture that are in view. */
export function drawPixelGrid(context: CanvasRenderingContext2D, view: ViewTransform, full: Size, canvas: Size): void {
  const { zoom, x, y } = view;
  const [left, right] = [
    Math.max(Math.floor(-x / zoom), 0),
    Math.min(Math.ceil((canvas.width - x) / zoom), full.width),
  ];
  const top = Math.max(Math.floor(-y / zoom), 0);
  const bottom = Math.min(Math.ceil((canvas.height - y) / zoom), full.height);
  context.beginPath();
  for (let i = left; i <= right; i++) {
    context.moveTo(x + i * zoom, y + top * zoom);
    context.lineTo(x + i * zoom, y + bottom * zoom);
  }
  for (let j = top; j <= bottom; j++) {
    context.moveTo(x + left * zoom, y + j * zoom);
    context.lineTo(x + right * zoom, y + j * zoom);
  }
  context.lineWidth = 1;
  context.strokeStyle = 'rgba(128,128,128,0.45)';
  context.stroke();
}
