import type { CropAnswer, Picture } from '../../engine/frameProtocol.ts';

/**
 * Draws the left half of a picture before and the right half after, as large as the canvas takes; clears it without
 * one.
 */
export function drawDivided(canvas: HTMLCanvasElement, crop: CropAnswer | undefined): void {
  const g = canvas.getContext('2d')!;
  g.clearRect(0, 0, canvas.width, canvas.height);
  if (!crop) return;
  const { width, height } = crop.before;
  const k = Math.min(canvas.width / width, canvas.height / height);
  const [x, y] = [(canvas.width - k * width) / 2, (canvas.height - k * height) / 2];
  const small = document.createElement('canvas');
  Object.assign(small, { width, height });
  const part = ({ rgba }: Picture, from: number, to: number) => {
    small.getContext('2d')!.putImageData(new ImageData(rgba, width, height), 0, 0);
    g.drawImage(small, from, 0, to - from, height, x + from * k, y, (to - from) * k, height * k);
  };
  const half = Math.round(width / 2);
  part(crop.before, 0, half);
  part(crop.after, half, width);
}
