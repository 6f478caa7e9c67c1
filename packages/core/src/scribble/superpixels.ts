import type { OklabPlanes } from '../colour/oklabPlanes.ts';

/** Patches of like colour that tile a picture. */
export interface Superpixels {
  width: number;
  height: number;
  count: number;
  /** Which patch each pixel belongs to. */
  labels: Int32Array;
  /** Per patch: pixels, and mean OKLab. */
  area: Float64Array;
  L: Float64Array;
  a: Float64Array;
  b: Float64Array;
  /** Pairs of patches that touch: i, j, i, j …, and along how many pixel sides each pair does. */
  pairs: Int32Array;
  border: Float64Array;
}

/** Distance between the patches' first centres, pixels. */
const SPACING = 7;
const ROUNDS = 5;
/** An OKLab difference of this much weighs as much as one spacing of distance. */
const COMPACTNESS = 0.06;

/**
 * Simple linear iterative clustering (R. Achanta et al., "SLIC Superpixels Compared to State-of-the-Art Superpixel
 * Methods", PAMI 2012) on OKLab: k-means over colour and place, each centre looking only about itself; scraps that came
 * off their patch are given to a neighbour.
 */
export function superpixelsOf({ L, a, b }: OklabPlanes, width: number, height: number): Superpixels {
  const [across, down] = [Math.max(Math.round(width / SPACING), 1), Math.max(Math.round(height / SPACING), 1)];
  const n = across * down;
  const centre = {
    x: new Float64Array(n),
    y: new Float64Array(n),
    L: new Float64Array(n),
    a: new Float64Array(n),
    b: new Float64Array(n),
  };
  for (let k = 0; k < n; k++) {
    const x = Math.floor((((k % across) + 0.5) * width) / across);
    const y = Math.floor(((Math.floor(k / across) + 0.5) * height) / down);
    const i = y * width + x;
    centre.x[k] = x;
    centre.y[k] = y;
    centre.L[k] = L[i]!;
    centre.a[k] = a[i]!;
    centre.b[k] = b[i]!;
  }
  const labels = new Int32Array(width * height);
  const nearest = new Float32Array(width * height);
  const perColour = 1 / COMPACTNESS ** 2;
  const perPlace = 1 / SPACING ** 2;
  for (let round = 0; round < ROUNDS; round++) {
    nearest.fill(Infinity);
    for (let k = 0; k < n; k++) {
      const cx = centre.x[k]!;
      const cy = centre.y[k]!;
      const cL = centre.L[k]!;
      const ca = centre.a[k]!;
      const cb = centre.b[k]!;
      const x0 = Math.max(Math.floor(cx - SPACING), 0);
      const x1 = Math.min(Math.ceil(cx + SPACING), width - 1);
      const y0 = Math.max(Math.floor(cy - SPACING), 0);
      const y1 = Math.min(Math.ceil(cy + SPACING), height - 1);
      for (let y = y0; y <= y1; y++) {
        const dy = (y - cy) ** 2;
        for (let x = x0, i = y * width + x0; x <= x1; x++, i++) {
          const dL = L[i]! - cL;
          const da = a[i]! - ca;
          const db = b[i]! - cb;
          const d = (dL * dL + da * da + db * db) * perColour + ((x - cx) * (x - cx) + dy) * perPlace;
          if (d < nearest[i]!) {
            nearest[i] = d;
            labels[i] = k;
          }
        }
      }
    }
    if (round === ROUNDS - 1) break;
    const sum = {
      n: new Float64Array(n),
      x: new Float64Array(n),
      y: new Float64Array(n),
      L: new Float64Array(n),
      a: new Float64Array(n),
      b: new Float64Array(n),
    };
    for (let i = 0; i < labels.length; i++) {
      const k = labels[i]!;
      sum.n[k]!++;
      sum.x[k]! += i % width;
      sum.y[k]! += Math.floor(i / width);
      sum.L[k]! += L[i]!;
      sum.a[k]! += a[i]!;
      sum.b[k]! += b[i]!;
    }
    for (let k = 0; k < n; k++) {
      const m = sum.n[k]!;
      if (m === 0) continue;
      centre.x[k] = sum.x[k]! / m;
      centre.y[k] = sum.y[k]! / m;
      centre.L[k] = sum.L[k]! / m;
      centre.a[k] = sum.a[k]! / m;
      centre.b[k] = sum.b[k]! / m;
    }
  }
  const { labels: joined, count } = joinedScraps(labels, width);
  return described({ L, a, b }, joined, count, width, height);
}

/** Gives every patch one connected piece: a scrap smaller than a quarter of a patch goes to the one met before it. */
function joinedScraps(labels: Int32Array, width: number): { labels: Int32Array; count: number } {
  const out = new Int32Array(labels.length).fill(-1);
  const least = (SPACING * SPACING) / 4;
  const queue = new Int32Array(labels.length);
  let count = 0;
  for (let start = 0; start < labels.length; start++) {
    if (out[start] !== -1) continue;
    const above = start >= width ? out[start - width]! : -1;
    const beside = start % width > 0 ? out[start - 1]! : above;
    let head = 0;
    let tail = 0;
    queue[tail++] = start;
    out[start] = count;
    const own = labels[start]!;
    while (head < tail) {
      const i = queue[head++]!;
      const x = i % width;
      for (let side = 0; side < 4; side++) {
        // a neighbour that the picture does not have is the pixel itself, which is taken
        let j = i;
        if (side === 0 && x > 0) j = i - 1;
        else if (side === 1 && x + 1 < width) j = i + 1;
        else if (side === 2 && i >= width) j = i - width;
        else if (side === 3 && i + width < labels.length) j = i + width;
        if (out[j] !== -1 || labels[j] !== own) continue;
        out[j] = count;
        queue[tail++] = j;
      }
    }
    if (tail < least && beside >= 0) for (let k = 0; k < tail; k++) out[queue[k]!] = beside;
    else count++;
  }
  return { labels: out, count };
}

function described(
  { L, a, b }: OklabPlanes,
  labels: Int32Array,
  count: number,
  width: number,
  height: number,
): Superpixels {
  const [area, sumL, sumA, sumB] = [
    new Float64Array(count),
    new Float64Array(count),
    new Float64Array(count),
    new Float64Array(count),
  ];
  const touching = new Map<number, number>();
  const touch = (p: number, q: number) => {
    if (p === q) return;
    const key = p < q ? p * count + q : q * count + p;
    touching.set(key, (touching.get(key) ?? 0) + 1);
  };
  for (let i = 0; i < labels.length; i++) {
    const k = labels[i]!;
    area[k]!++;
    sumL[k]! += L[i]!;
    sumA[k]! += a[i]!;
    sumB[k]! += b[i]!;
    if ((i + 1) % width !== 0) touch(k, labels[i + 1]!);
    if (i + width < labels.length) touch(k, labels[i + width]!);
  }
  const pairs = new Int32Array(2 * touching.size);
  const border = new Float64Array(touching.size);
  let at = 0;
  for (const [key, sides] of touching) {
    pairs[2 * at] = Math.floor(key / count);
    pairs[2 * at + 1] = key % count;
    border[at++] = sides;
  }
  const mean = (sum: Float64Array) => sum.map((s, k) => s / area[k]!);
  return { width, height, count, labels, area, L: mean(sumL), a: mean(sumA), b: mean(sumB), pairs, border };
}
