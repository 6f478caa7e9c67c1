import type { Picture } from '../engine/frameProtocol.ts';

/** Draws a picture half-way between filling a canvas and standing whole in it: large, and still to be recognised. */
export function drawFilling(canvas: HTMLCanvasElement, { rgba, width, height }: Picture): void {
  const whole = new OffscreenCanvas(width, height);
  whole.getContext('2d')!.putImageData(new ImageData(rgba, width, height), 0, 0);
  const k = Math.sqrt((canvas.width / width) * (canvas.height / height));
  const [w, h] = [width * k, height * k];
  const g = canvas.getContext('2d')!;
  g.clearRect(0, 0, canvas.width, canvas.height);
  g.drawImage(whole, (canvas.width - w) / 2, (canvas.height - h) / 2, w, h);
}

/** Draws a picture on a canvas, which takes its size. */
export function drawPicture(canvas: HTMLCanvasElement, { rgba, width, height }: Picture): void {
  canvas.width = width;
  canvas.height = height;
  canvas.getContext('2d')!.putImageData(new ImageData(rgba, width, height), 0, 0);
}
