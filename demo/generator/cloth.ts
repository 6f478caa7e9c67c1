// The scarf's geometry: a strip of cloth draped over a rail, gathered into folds, with a fringe at the front end.

type Vec3 = [number, number, number];
export interface Drape {
  /** Hanging length before and behind the rail, and the width along it, metres. */
  front: number;
  back: number;
  width: number;
  seed: number;
}

const RAIL_RADIUS_M = 0.026;

/** A point of the cloth. `u` in −0.5..0.5 runs across, `v` in 0..1 from the front hem to the back hem. */
function clothPoint(u: number, v: number, { front, back, width, seed }: Drape): Vec3 {
  const r = RAIL_RADIUS_M;
  const arc = Math.PI * r;
  const s = v * (front + arc + back);
  const fold =
    0.011 * Math.sin(u * 31 + seed) +
    0.007 * Math.sin(u * 57 + seed * 2.1 + v * 2.2) +
    0.004 * Math.sin(u * 17 - v * 5);
  if (s < front) {
    const sag = (front - s) / front;
    return [
      u * width * (1 - 0.16 * sag + 0.05 * Math.sin(sag * 4)),
      s - front + 0.012 * Math.sin(u * 9 + seed) * sag,
      -r - fold * (0.25 + 1.25 * sag) - 0.012 * sag,
    ];
  }
  if (s < front + arc) {
    const a = (s - front) / r;
    return [u * width, r * Math.sin(a) + 0.27 * fold, -r * Math.cos(a) - 0.1 * fold];
  }
  const hang = s - front - arc;
  const sag = hang / back;
  return [u * width * (1 - 0.12 * sag), -hang, r + fold * (0.25 + sag)];
}

const minus = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
function clothNormal(u: number, v: number, drape: Drape): Vec3 {
  const e = 0.0015;
  const [ax, ay, az] = minus(clothPoint(u + e, v, drape), clothPoint(u - e, v, drape));
  const [bx, by, bz] = minus(clothPoint(u, v + e, drape), clothPoint(u, v - e, drape));
  const n: Vec3 = [ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx];
  const length = Math.hypot(...n) || 1;
  return [n[0] / length, n[1] / length, n[2] / length];
}

const vec = (p: Vec3) => `<${p.map((x) => x.toFixed(5)).join(',')}>`;

/** POV-Ray source of the cloth mesh and its fringe, `columns × rows` cells. */
export function scarfSource(drape: Drape, columns = 90, rows = 80): string {
  const points: Vec3[] = [];
  const normals: Vec3[] = [];
  for (let j = 0; j <= rows; j++)
    for (let i = 0; i <= columns; i++) {
      points.push(clothPoint(i / columns - 0.5, j / rows, drape));
      normals.push(clothNormal(i / columns - 0.5, j / rows, drape));
    }
  const faces: string[] = [];
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      const p = j * (columns + 1) + i;
      const q = p + columns + 1;
      faces.push(`<${p},${p + 1},${q + 1}>`, `<${p},${q + 1},${q}>`);
    }
  const fringe: string[] = [];
  for (let i = 0; i < 60; i++) {
    const a = clothPoint((i + 0.5) / 60 - 0.5, 0, drape);
    const sway = (k: number) => 0.006 * Math.sin(i * 12.9898 + k * 78.233);
    const b: Vec3 = [a[0] + sway(1), a[1] - 0.055 - sway(2), a[2] + sway(3)];
    fringe.push(`cone { ${vec(a)}, 0.0018, ${vec(b)}, 0.001 }`);
  }
  return [
    `mesh2 { vertex_vectors { ${points.length}, ${points.map(vec).join(',')} }`,
    `normal_vectors { ${normals.length}, ${normals.map(vec).join(',')} }`,
    `face_indices { ${faces.length}, ${faces.join(',')} } }`,
    ...fringe,
  ].join('\n');
}
