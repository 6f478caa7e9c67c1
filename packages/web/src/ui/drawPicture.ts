import type { Picture } from '../engine/frameProtocol.ts';

/** Draws a picture on a canvas, which takes its size. */
export function drawPicture(canvas: HTMLCanvasElement, { rgba, width, height }: Picture): void {
  canvas.width = width;
  canvas.height = height;
  canvas.getContext('2d')!.putImageData(new ImageData(rgba, width, height), 0, 0);
}
