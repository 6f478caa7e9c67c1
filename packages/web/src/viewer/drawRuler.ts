/** The frames of a shot, the part that plays round and round, and the frame in hand. */
interface Ruled {
  /** The number of the first. */
  first: number;
  frames: number;
  frame: number;
  loop: { from: number; to: number } | null;
  /** Frames with notes that are still to be seen to. */
  noted: readonly number[];
}
/** Draws a ruler of frames at its canvas's size on screen. */
export function drawRuler(c: HTMLCanvasElement, { first, frames, frame, loop, noted }: Ruled): void {
  const [w, h] = [c.clientWidth, c.clientHeight];
  Object.assign(c, { width: w * devicePixelRatio, height: h * devicePixelRatio });
  const g = c.getContext('2d')!;
  g.scale(devicePixelRatio, devicePixelRatio);
  const style = getComputedStyle(c);
  const cell = w / frames;
  g.fillStyle = style.getPropertyValue('--line');
  g.fillRect(0, h / 2 - 1, w, 2);
  g.fillStyle = style.getPropertyValue('--quiet');
  g.font = `10px 'JetBrains Mono Variable', monospace`;
  const every = [1, 2, 5, 10, 24, 48, 100, 240].find((n) => n * cell > 46) ?? 1000;
  for (let f = 0; f < frames; f++) {
    const major = (first + f) % every === 0;
    if (!major && cell < 4) continue;
    g.fillRect(Math.round((f + 0.5) * cell), h / 2 - (major ? 7 : 3), 1, major ? 14 : 6);
    if (major) g.fillText(String(first + f), (f + 0.5) * cell + 3, 11);
  }
  if (loop) {
    g.fillStyle = style.getPropertyValue('--quiet');
    g.fillRect((loop.from - first) * cell, h - 4, (loop.to - loop.from + 1) * cell, 3);
  }
  g.fillStyle = style.getPropertyValue('--text');
  for (const at of noted) {
    g.beginPath();
    g.arc((at - first + 0.5) * cell, h - 6, 4, 0, 2 * Math.PI);
    g.fill();
  }
  g.fillStyle = style.getPropertyValue('--active');
  g.fillRect((frame - first) * cell, 14, Math.max(cell, 3), h - 18);
}
