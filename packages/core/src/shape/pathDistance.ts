import type { Polygon } from './path.ts';

/**
 * Distance from each pixel centre to the polygon's outline, in pixels, unsigned; `out` is `width × height`.
 *
 * Near the outline (within about a pixel) the distance to the edges is computed directly. From there it is carried
 * outwards by the exact two-pass transform of P. Felzenszwalb and D. Huttenlocher, "Distance Transforms of Sampled
 * Functions", Theory of Computing 8 (2012), keeping for each pixel *which* outline pixel won; from that pixel's edge we
 * walk along the outline while the true distance shrinks, so it stays sub-pixel exact however far away. Time does not
 * grow with the distance.
 * Outline outside the picture is seen through a border of `pad` pixels; give at least the widest distance wanted.
 */
export function pathDistanceInto(out: Float32Array, width: number, height: number, polygon: Polygon, pad: number): void {
  const border = Math.ceil(pad) + 2;
  const w = width + 2 * border;
  const h = height + 2 * border;
  const { squared, edge } = seedOutline(polygon, w, h, border);
  const nearest = nearestSeed(squared, w, h);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const seed = nearest[(y + border) * w + x + border]!;
      out[y * width + x] = seed < 0 ? Infinity : Math.sqrt(squaredDistanceFrom(polygon, edge[seed]!, x + 0.5, y + 0.5));
    }
}

function squaredDistanceToEdge(polygon: Polygon, edge: number, px: number, py: number): number {
  const n = polygon.length;
  const x0 = polygon[2 * edge]!;
  const y0 = polygon[2 * edge + 1]!;
  const dx = polygon[(2 * edge + 2) % n]! - x0;
  const dy = polygon[(2 * edge + 3) % n]! - y0;
  const along = dx * dx + dy * dy;
  const t = along === 0 ? 0 : Math.min(Math.max(((px - x0) * dx + (py - y0) * dy) / along, 0), 1);
  const ex = px - x0 - t * dx;
  const ey = py - y0 - t * dy;
  return ex * ex + ey * ey;
}

/** Squared distance from a point to the outline, found by descent from the edge `start` in both directions. */
function squaredDistanceFrom(polygon: Polygon, start: number, px: number, py: number): number {
  const edges = polygon.length / 2;
  let best = squaredDistanceToEdge(polygon, start, px, py);
  for (const step of [1, edges - 1]) {
    for (let edge = (start + step) % edges; edge !== start; edge = (edge + step) % edges) {
      const d = squaredDistanceToEdge(polygon, edge, px, py);
      if (d > best) break;
      best = d;
    }
  }
  return best;
}

/** Squared distance and nearest edge of the pixels that an edge passes through or beside; Infinity elsewhere. */
function seedOutline(polygon: Polygon, w: number, h: number, border: number): { squared: Float64Array; edge: Int32Array } {
  const squared = new Float64Array(w * h).fill(Infinity);
  const edge = new Int32Array(w * h).fill(-1);
  const n = polygon.length / 2;
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    const [x0, y0, x1, y1] = [polygon[2 * i]!, polygon[2 * i + 1]!, polygon[2 * j]!, polygon[2 * j + 1]!];
    const steps = Math.max(Math.ceil(Math.hypot(x1 - x0, y1 - y0) * 2), 1);
    for (let k = 0; k <= steps; k++) {
      const cx = Math.floor(x0 + ((x1 - x0) * k) / steps) + border;
      const cy = Math.floor(y0 + ((y1 - y0) * k) / steps) + border;
      for (let y = Math.max(cy - 1, 0); y <= Math.min(cy + 1, h - 1); y++)
        for (let x = Math.max(cx - 1, 0); x <= Math.min(cx + 1, w - 1); x++) {
          const d = squaredDistanceToEdge(polygon, i, x - border + 0.5, y - border + 0.5);
          if (d < squared[y * w + x]!) {
            squared[y * w + x] = d;
            edge[y * w + x] = i;
          }
        }
    }
  }
  return { squared, edge };
}

/** For each pixel the index of the seed that minimises (distance to seed)² + the seed's own squared distance; −1 without seeds. */
function nearestSeed(squared: Float64Array, w: number, h: number): Int32Array {
  const cost = new Float64Array(w * h);
  const seed = new Int32Array(w * h).fill(-1);
  const n = Math.max(w, h);
  const envelope: Envelope = { site: new Int32Array(n), from: new Float64Array(n + 1), f: new Float64Array(n), id: new Int32Array(n) };
  for (let x = 0; x < w; x++) {
    for (let y = 0; y < h; y++) {
      envelope.f[y] = squared[y * w + x]!;
      envelope.id[y] = y * w + x;
    }
    lowerEnvelope(envelope, h, (y, value, id) => {
      cost[y * w + x] = value;
      seed[y * w + x] = id;
    });
  }
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      envelope.f[x] = seed[y * w + x]! < 0 ? Infinity : cost[y * w + x]!;
      envelope.id[x] = seed[y * w + x]!;
    }
    lowerEnvelope(envelope, w, (x, _value, id) => (seed[y * w + x] = id));
  }
  return seed;
}

interface Envelope {
  site: Int32Array;
  from: Float64Array;
  f: Float64Array;
  id: Int32Array;
}

/** One-dimensional transform, Algorithm 1 of the paper; sites with an infinite cost are left out. */
function lowerEnvelope({ site, from, f, id }: Envelope, n: number, emit: (q: number, value: number, id: number) => void): void {
  let k = -1;
  for (let q = 0; q < n; q++) {
    const fq = f[q]!;
    if (fq === Infinity) continue;
    let s = -Infinity;
    while (k >= 0) {
      const v = site[k]!;
      s = (fq + q * q - f[v]! - v * v) / (2 * (q - v));
      if (s > from[k]!) break;
      k--;
      s = -Infinity;
    }
    k++;
    site[k] = q;
    from[k] = s;
  }
  if (k < 0) return;
  let j = 0;
  for (let q = 0; q < n; q++) {
    while (j < k && from[j + 1]! < q) j++;
    const v = site[j]!;
    emit(q, (q - v) ** 2 + f[v]!, id[v]!);
  }
}
