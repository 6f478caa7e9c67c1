import type { Stroke } from '../document/layer.ts';

/**
 * What strokes say of each pixel of a picture `scale` times the full size: 1 in, −1 out, 0 nothing; of two the later
 * counts, after all that lies beyond those that go round.
 */
export function markedByStrokes(strokes: readonly Stroke[], width: number, height: number, scale: number): Int8Array {
  const out = new Int8Array(width * height);
  const within = withinAll(strokes, width, height, scale);
  if (within) for (let i = 0; i < out.length; i++) out[i] = within[i]! - 1;
  for (const { sign, widthPx, points } of strokes) {
    if (sign !== 'in' && sign !== 'out') continue;
    const radius = Math.max((widthPx * scale) / 2, 0.75);
    const value = sign === 'in' ? 1 : -1;
    points.forEach((p, i) => {
      const q = points[i + 1] ?? (i === 0 ? p : undefined);
      if (q) markSegment(out, width, height, p[0] * scale, p[1] * scale, q[0] * scale, q[1] * scale, radius, value);
    });
  }
  return out;
}

/** Where the picture is only partly in, by strokes that say so: 1, else 0. Undefined without any. */
export function unsureArea(
  strokes: readonly Stroke[],
  width: number,
  height: number,
  scale: number,
): Uint8Array | undefined {
  const unsure = strokes.filter((s) => s.sign === 'unsure').map((s): Stroke => ({ ...s, sign: 'in' }));
  if (unsure.length === 0) return undefined;
  return Uint8Array.from(markedByStrokes(unsure, width, height, scale));
}

/** What lies within any of the strokes that go round, each closed by its ends: 1, else 0. Undefined without any. */
function withinAll(strokes: readonly Stroke[], width: number, height: number, scale: number): Uint8Array | undefined {
  const rounds = strokes.filter((s) => s.sign === 'around');
  if (rounds.length === 0) return undefined;
  const out = new Uint8Array(width * height);
  for (const { points } of rounds)
    for (let y = 0; y < height; y++) {
      const at = (y + 0.5) / scale;
      // where the row meets the path: between each two of them is inside (even–odd)
      const crossings: number[] = [];
      points.forEach(([x0, y0], i) => {
        const [x1, y1] = points[(i + 1) % points.length]!;
        if (y0 > at !== y1 > at) crossings.push((x0 + ((at - y0) / (y1 - y0)) * (x1 - x0)) * scale);
      });
      crossings.sort((a, b) => a - b);
      for (let k = 0; k + 1 < crossings.length; k += 2) {
        const from = Math.max(Math.ceil(crossings[k]! - 0.5), 0);
        const to = Math.min(Math.ceil(crossings[k + 1]! - 0.5), width);
        if (to > from) out.fill(1, y * width + from, y * width + to);
      }
    }
  return out;
}

/** Marks the pixels whose centres lie within `radius` of a segment. */
function markSegment(
  out: Int8Array,
  width: number,
  height: number,
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  radius: number,
  value: number,
): void {
  const [dx, dy] = [x1 - x0, y1 - y0];
  const length2 = dx * dx + dy * dy || 1;
  const rows = [
    Math.max(Math.floor(Math.min(y0, y1) - radius), 0),
    Math.min(Math.ceil(Math.max(y0, y1) + radius), height - 1),
  ] as const;
  const columns = [
    Math.max(Math.floor(Math.min(x0, x1) - radius), 0),
    Math.min(Math.ceil(Math.max(x0, x1) + radius), width - 1),
  ] as const;
  for (let y = rows[0]; y <= rows[1]; y++)
    for (let x = columns[0]; x <= columns[1]; x++) {
      const px = x + 0.5 - x0;
      const py = y + 0.5 - y0;
      const t = Math.min(Math.max((px * dx + py * dy) / length2, 0), 1);
      if ((px - t * dx) ** 2 + (py - t * dy) ** 2 <= radius * radius) out[y * width + x] = value;
    }
}
