import { behindZeros, pairsOf } from './pairs.ts';

/** Connected regions of a mask. */
export interface Components {
  /** Region of each pixel, 1..count in the order of their first pixel; 0 outside the mask. */
  labels: Int32Array;
  count: number;
}

/**
 * Two passes with union–find (A. Rosenfeld, J. L. Pfaltz 1966; path halving after R. E. Tarjan). `corners` joins
 * diagonals too.
 */
export function connectedComponents(mask: Uint8Array, width: number, height: number, corners: boolean): Components {
  const labels = new Int32Array(mask.length);
  const parent: number[] = [0];
  const find = (label: number): number => {
    let at = label;
    while (parent[at]! !== at) {
      parent[at] = parent[parent[at]!]!;
      at = parent[at]!;
    }
    return at;
  };
  const join = (p: number, q: number): number => {
    if (q === 0 || p === q) return p;
    if (p === 0) return q;
    const [a, b] = [find(p), find(q)];
    const low = Math.min(a, b);
    parent[Math.max(a, b)] = low;
    return low;
  };
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (mask[i] === 0) continue;
      let label = x > 0 ? labels[i - 1]! : 0;
      if (y > 0) {
        label = join(label, labels[i - width]!);
        if (corners && x > 0) label = join(label, labels[i - width - 1]!);
        if (corners && x + 1 < width) label = join(label, labels[i - width + 1]!);
      }
      if (label === 0) {
        label = parent.length;
        parent.push(label);
      }
      labels[i] = label;
    }
  const final = new Int32Array(parent.length);
  let count = 0;
  for (let i = 0; i < labels.length; i++) {
    if (labels[i] === 0) continue;
    const root = find(labels[i]!);
    if (final[root] === 0) final[root] = ++count;
    labels[i] = final[root]!;
  }
  return { labels, count };
}

/**
 * α from which a pixel belongs to a region when regions are removed by size; below it a soft rim fades out by itself.
 */
const PRESENT = 0.05;

/** Sets to 0 every island of α whose summed α is under `areaPx` samples; diagonals join. In place. */
export function removeIslandsInPlace(alpha: Float32Array, width: number, height: number, areaPx: number): void {
  if (areaPx > 0) fillSmallRegions(alpha, width, height, areaPx, false);
}

/**
 * Fills every hole whose summed 1 − α is under `areaPx` samples; only sides join, as for the complement of an
 * 8-connected set. In place.
 */
export function fillHolesInPlace(alpha: Float32Array, width: number, height: number, areaPx: number): void {
  if (areaPx > 0) fillSmallRegions(alpha, width, height, areaPx, true);
}

/**
 * Sets regions of what is there (or, as holes, of what is not) to the opposite where they sum to less than `areaPx`.
 * Their pixels are taken together by runs, stretches of a row, which are joined with the runs they touch in the row
 * above (L. He, Y. Chao, K. Suzuki, "A Run-Based Two-Scan Labeling Algorithm", IEEE TIP 2008): of a frame that is
 * mostly one region, a run is a row.
 */
function fillSmallRegions(alpha: Float32Array, width: number, height: number, areaPx: number, holes: boolean): void {
  const runs = runsOf(alpha, width, height, holes);
  const { starts, ends, firstOfRow } = runs;
  const parent = new Int32Array(starts.length);
  for (let k = 0; k < parent.length; k++) parent[k] = k;
  // corners join islands: a run touches one that ends just before it begins
  const corner = holes ? 0 : 1;
  for (let y = 1; y < height; y++) {
    let above = firstOfRow[y - 1]!;
    for (let k = firstOfRow[y]!; k < firstOfRow[y + 1]!; k++) {
      const from = starts[k]! - width - corner;
      const to = ends[k]! - width + corner;
      while (above < firstOfRow[y]! && ends[above]! <= from) above++;
      for (let u = above; u < firstOfRow[y]! && starts[u]! < to; u++) join(parent, u, k);
    }
  }
  const area = new Float64Array(starts.length);
  for (let k = 0; k < area.length; k++) {
    const root = rootOf(parent, k);
    area[root] = area[root]! + runs.areas[k]!;
  }
  for (let k = 0; k < area.length; k++)
    if (area[rootOf(parent, k)]! < areaPx) alpha.fill(holes ? 1 : 0, starts[k], ends[k]);
}

/** Stretches of rows, in reading order. */
interface Runs {
  /** First pixel of each. */
  starts: number[];
  /** The pixel behind its last. */
  ends: number[];
  /** What its pixels sum to. */
  areas: number[];
  /** The first run of each row, and behind the last row the number of runs. */
  firstOfRow: Uint32Array;
}
function runsOf(alpha: Float32Array, width: number, height: number, holes: boolean): Runs {
  const pairs = pairsOf(alpha);
  const out: Runs = { starts: [], ends: [], areas: [], firstOfRow: new Uint32Array(height + 1) };
  for (let y = 0; y < height; y++) {
    out.firstOfRow[y] = out.starts.length;
    const end = (y + 1) * width;
    for (let i = y * width; i < end; i++) {
      if (!holes) i = behindZeros(pairs, i, end);
      const start = i;
      let area = 0;
      while (i < end) {
        if (holes) {
          const behind = behindZeros(pairs, i, end);
          area += behind - i;
          i = behind;
          if (i >= end) break;
        }
        const v = holes ? 1 - alpha[i]! : alpha[i]!;
        if (!(v > PRESENT)) break;
        area += v;
        i++;
      }
      if (i === start) continue;
      out.starts.push(start);
      out.ends.push(i);
      out.areas.push(area);
    }
  }
  out.firstOfRow[height] = out.starts.length;
  return out;
}

/** The run that stands for all that it is joined with. */
function rootOf(parent: Int32Array, run: number): number {
  let at = run;
  while (parent[at] !== at) {
    parent[at] = parent[parent[at]!]!;
    at = parent[at]!;
  }
  return at;
}
function join(parent: Int32Array, p: number, q: number): void {
  const a = rootOf(parent, p);
  const b = rootOf(parent, q);
  parent[Math.max(a, b)] = Math.min(a, b);
}
