import type { CropAnswer, Picture } from '../../engine/frameProtocol.ts';
import type { Shown } from './lineupLook.ts';

/** Pictures of the same size, side by side in upright strips of one picture. */
function drawStrips(canvas: HTMLCanvasElement, pictures: readonly Picture[]): void {
  const g = canvas.getContext('2d')!;
  g.clearRect(0, 0, canvas.width, canvas.height);
  const [first] = pictures;
  if (!first) return;
  const { width, height } = first;
  const k = Math.min(canvas.width / width, canvas.height / height);
  const [left, top] = [(canvas.width - k * width) / 2, (canvas.height - k * height) / 2];
  const small = new OffscreenCanvas(width, height);
  pictures.forEach(({ rgba }, i) => {
    const [from, to] = [i, i + 1].map((n) => Math.round((n * width) / pictures.length)) as [number, number];
    small.getContext('2d')!.putImageData(new ImageData(rgba, width, height), 0, 0);
    g.drawImage(small, from, 0, to - from, height, left + from * k, top, (to - from) * k, height * k);
  });
}

/** A piece cut out of its frame, as the line-up shows it; `crops`: one for each colourway that is shown. */
export function drawCrop(canvas: HTMLCanvasElement, crops: readonly CropAnswer[], shown: Shown): void {
  const [first] = crops;
  if (!first) return drawStrips(canvas, []);
  const PICTURES: Record<Shown, Picture[]> = {
    before: [first.before],
    after: [first.after],
    divided: [first.before, first.after],
    colourways: crops.map((c) => c.after),
  };
  drawStrips(canvas, PICTURES[shown]);
}
