/**
 * For each pixel of a grid the index of the site that minimises (distance to the site)² + the site's own cost; −1
 * without sites. `cost` is Infinity where there is no site. The exact two-pass transform of P. Felzenszwalb and
 * D. Huttenlocher, "Distance Transforms of Sampled Functions", Theory of Computing 8 (2012), keeping *which* site won.
 * Time does not grow with the distance.
 */
export function nearestSite(cost: Float64Array | Float32Array, width: number, height: number): Int32Array {
  const best = new Float64Array(width * height);
  const site = new Int32Array(width * height).fill(-1);
  const n = Math.max(width, height);
  const envelope: Envelope = {
    site: new Int32Array(n),
    from: new Float64Array(n + 1),
    f: new Float64Array(n),
    id: new Int32Array(n),
    value: new Float64Array(n),
    winner: new Int32Array(n),
  };
  const { f, id, value, winner } = envelope;
  for (let x = 0; x < width; x++) {
    let any = false;
    for (let y = 0; y < height; y++) {
      const at = y * width + x;
      f[y] = cost[at]!;
      id[y] = at;
      any ||= cost[at]! !== Infinity;
    }
    if (!any || !lowerEnvelope(envelope, height)) continue;
    for (let y = 0; y < height; y++) {
      best[y * width + x] = value[y]!;
      site[y * width + x] = winner[y]!;
    }
  }
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) {
      f[x] = site[row + x]! < 0 ? Infinity : best[row + x]!;
      id[x] = site[row + x]!;
    }
    if (lowerEnvelope(envelope, width)) for (let x = 0; x < width; x++) site[row + x] = winner[x]!;
  }
  return site;
}

interface Envelope {
  site: Int32Array;
  from: Float64Array;
  f: Float64Array;
  id: Int32Array;
  value: Float64Array;
  winner: Int32Array;
}

/** One-dimensional transform, Algorithm 1 of the paper; sites with an infinite cost are left out. False without any. */
function lowerEnvelope({ site, from, f, id, value, winner }: Envelope, n: number): boolean {
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
  if (k < 0) return false;
  let j = 0;
  for (let q = 0; q < n; q++) {
    while (j < k && from[j + 1]! < q) j++;
    const v = site[j]!;
    value[q] = (q - v) ** 2 + f[v]!;
    winner[q] = id[v]!;
  }
  return true;
}

/**
 * Euclidean distance from each pixel's centre to the nearest centre of a set pixel, in samples; Infinity without any.
 */
export function maskDistanceInto(out: Float32Array, mask: Uint8Array, width: number, height: number): void {
  const cost = new Float32Array(mask.length);
  for (let i = 0; i < mask.length; i++) cost[i] = mask[i] ? 0 : Infinity;
  const sites = nearestSite(cost, width, height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const s = sites[y * width + x]!;
      out[y * width + x] = s < 0 ? Infinity : Math.hypot((s % width) - x, Math.floor(s / width) - y);
    }
}
