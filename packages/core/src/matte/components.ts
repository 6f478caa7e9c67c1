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
  if (areaPx <= 0) return;
  const mask = new Uint8Array(alpha.length);
  for (let i = 0; i < alpha.length; i++) mask[i] = alpha[i]! > PRESENT ? 1 : 0;
  const { labels, count } = connectedComponents(mask, width, height, true);
  const area = new Float64Array(count + 1);
  for (let i = 0; i < alpha.length; i++) area[labels[i]!] = area[labels[i]!]! + alpha[i]!;
  for (let i = 0; i < alpha.length; i++) if (labels[i] !== 0 && area[labels[i]!]! < areaPx) alpha[i] = 0;
}

/**
 * Fills every hole whose summed 1 − α is under `areaPx` samples; only sides join, as for the complement of an
 * 8-connected set. In place.
 */
export function fillHolesInPlace(alpha: Float32Array, width: number, height: number, areaPx: number): void {
  if (areaPx <= 0) return;
  const mask = new Uint8Array(alpha.length);
  for (let i = 0; i < alpha.length; i++) mask[i] = 1 - alpha[i]! > PRESENT ? 1 : 0;
  const { labels, count } = connectedComponents(mask, width, height, false);
  const area = new Float64Array(count + 1);
  for (let i = 0; i < alpha.length; i++) area[labels[i]!] = area[labels[i]!]! + 1 - alpha[i]!;
  for (let i = 0; i < alpha.length; i++) if (labels[i] !== 0 && area[labels[i]!]! < areaPx) alpha[i] = 1;
}
