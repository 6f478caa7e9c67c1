import type { Cube } from './cube.ts';

/** Changes the codes of one colour in place. */
export type OnCodes = (rgb: Float64Array) => void;

/**
 * A table as a function: linear between the entries of a 1-D one, tetrahedral in a 3-D one unless it says otherwise;
 * clamped to its domain.
 */
export function cubeAt(cube: Cube): OnCodes {
  if (cube.kind === '1D') return lines(cube);
  return cube.isTrilinear ? boxes(cube) : tetrahedra(cube);
}

function lines({ size, domain, values }: Cube): OnCodes {
  return (rgb) => {
    for (let c = 0; c < 3; c++) {
      const at = placeOf(rgb[c]!, domain.min[c]!, domain.max[c]!, size);
      const low = Math.min(Math.floor(at), size - 2);
      const a = values[3 * low + c]!;
      const b = values[3 * low + 3 + c]!;
      rgb[c] = a + (b - a) * (at - low);
    }
  };
}
/** Where among the entries a code lies, 0..size − 1. What is no number lies at the first. */
function placeOf(code: number, min: number, max: number, size: number): number {
  const at = ((code - min) / (max - min)) * (size - 1);
  return at > 0 ? Math.min(at, size - 1) : 0;
}

/**
 * After J. M. Kasson, S. I. Nin, W. Plouffe, J. L. Hafner, “Performing color space conversions with
 * three-dimensional linear interpolation”, Journal of Electronic Imaging 4(3), 1995: each cell is parted in six along
 * its grey diagonal.
 */
function tetrahedra({ size, domain: { min, max }, values }: Cube): OnCodes {
  const [dr, dg, db] = [3, 3 * size, 3 * size * size];
  return (rgb) => {
    const r = placeOf(rgb[0]!, min[0], max[0], size);
    const g = placeOf(rgb[1]!, min[1], max[1], size);
    const b = placeOf(rgb[2]!, min[2], max[2], size);
    const r0 = Math.min(Math.floor(r), size - 2);
    const g0 = Math.min(Math.floor(g), size - 2);
    const b0 = Math.min(Math.floor(b), size - 2);
    const fr = r - r0;
    const fg = g - g0;
    const fb = b - b0;
    const black = r0 * dr + g0 * dg + b0 * db;
    const white = black + dr + dg + db;
    // the channel that has come furthest is walked along first, the one that lags last
    let first = dr;
    let second = dr + dg;
    let most = fr;
    let middle = fg;
    let least = fb;
    if (fr >= fg) {
      if (fg < fb) {
        if (fr >= fb) [second, middle, least] = [dr + db, fb, fg];
        else [first, second, most, middle, least] = [db, db + dr, fb, fr, fg];
      }
    } else if (fb >= fg) [first, second, most, middle, least] = [db, db + dg, fb, fg, fr];
    else if (fb >= fr) [first, second, most, middle, least] = [dg, dg + db, fg, fb, fr];
    else [first, second, most, middle, least] = [dg, dg + dr, fg, fr, fb];
    for (let c = 0; c < 3; c++)
      rgb[c] =
        values[black + c]! * (1 - most) +
        values[black + first + c]! * (most - middle) +
        values[black + second + c]! * (middle - least) +
        values[white + c]! * least;
  };
}

/** Linear along each of the three axes of a cell. */
function boxes({ size, domain: { min, max }, values }: Cube): OnCodes {
  const step = [3, 3 * size, 3 * size * size];
  const low = new Int32Array(3);
  const part = new Float64Array(3);
  return (rgb) => {
    for (let c = 0; c < 3; c++) {
      const at = placeOf(rgb[c]!, min[c]!, max[c]!, size);
      low[c] = Math.min(Math.floor(at), size - 2);
      part[c] = at - low[c]!;
    }
    const black = low[0]! * step[0]! + low[1]! * step[1]! + low[2]! * step[2]!;
    rgb.fill(0);
    for (let corner = 0; corner < 8; corner++) {
      let weight = 1;
      let at = black;
      for (let c = 0; c < 3; c++) {
        const isFar = (corner >> c) & 1;
        weight *= isFar ? part[c]! : 1 - part[c]!;
        if (isFar) at += step[c]!;
      }
      if (weight === 0) continue;
      for (let c = 0; c < 3; c++) rgb[c] = rgb[c]! + weight * values[at + c]!;
    }
  };
}
