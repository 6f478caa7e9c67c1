import { boundsOf, featheredPolygon, pathOf, type BoxGeometry, type Geometry, type PathPoint } from '@mellow/core';
import type { HandleLook, Shape } from './tool.ts';

/** What can be held of a shape. `sx`, `sy` (−1, 0, 1) name the side or corner of a box. */
export type Grip =
  | { kind: 'move' }
  | { kind: 'size'; sx: number; sy: number }
  | { kind: 'turn' }
  | { kind: 'point'; index: number; part: 'point' | 'in' | 'out' }
  | { kind: 'feather'; side: 'innerPx' | 'outerPx'; index: number }
  | { kind: 'end'; end: 0 | 1 };
export interface Handle {
  x: number;
  y: number;
  grip: Grip;
  look: HandleLook;
}

const CORNERS: [number, number][] = [
  [-1, -1],
  [0, -1],
  [1, -1],
  [1, 0],
  [1, 1],
  [0, 1],
  [-1, 1],
  [-1, 0],
];
/** The box round chosen points stands off by this many screen pixels, so that points at its corners can be reached. */
const STAND_OFF = 22;
const TURN_HANDLE = 24;

/** A point of a turned box given by its place in it (−1..1 either way). */
export function boxPoint(
  g: Pick<BoxGeometry, 'cx' | 'cy' | 'width' | 'height' | 'turnDeg'>,
  u: number,
  v: number,
): [number, number] {
  const [cos, sin] = [Math.cos((g.turnDeg * Math.PI) / 180), Math.sin((g.turnDeg * Math.PI) / 180)];
  const [x, y] = [(u * g.width) / 2, (v * g.height) / 2];
  return [g.cx + x * cos - y * sin, g.cy + x * sin + y * cos];
}

/**
 * The box that moves, scales, turns and shears: the shape's own, or one round the chosen points (all of them when none
 * is).
 */
export function transformBox(
  geometry: Geometry,
  chosen: ReadonlySet<number>,
  px: number,
): Pick<BoxGeometry, 'cx' | 'cy' | 'width' | 'height' | 'turnDeg'> | undefined {
  if (geometry.form === 'rectangle' || geometry.form === 'ellipse') return geometry;
  if (geometry.form === 'gradient' || chosen.size === 1) return undefined;
  const { x0, y0, x1, y1 } = boundsOf(geometry, chosen);
  const off = STAND_OFF * px;
  return { cx: (x0 + x1) / 2, cy: (y0 + y1) / 2, width: x1 - x0 + 2 * off, height: y1 - y0 + 2 * off, turnDeg: 0 };
}

const signedArea = (points: readonly PathPoint[]): number =>
  points.reduce(
    (sum, p, i) => sum + p.x * points[(i + 1) % points.length]!.y - points[(i + 1) % points.length]!.x * p.y,
    0,
  ) / 2;

/** The unit vector that leads out of a closed path at one of its points. */
export function outwardAt(points: readonly PathPoint[], index: number): [number, number] {
  const p = points[index]!;
  const previous = points[(index + points.length - 1) % points.length]!;
  const next = points[(index + 1) % points.length]!;
  const after = p.outX || p.outY ? [p.outX, p.outY] : [next.x + next.inX - p.x, next.y + next.inY - p.y];
  const before =
    p.inX || p.inY ? [-p.inX, -p.inY] : [p.x - previous.x - previous.outX, p.y - previous.y - previous.outY];
  const unit = ([x, y]: number[]) => [x! / (Math.hypot(x!, y!) || 1), y! / (Math.hypot(x!, y!) || 1)];
  const [ax, ay] = unit(after);
  const [bx, by] = unit(before);
  const [tx, ty] = unit([ax! + bx!, ay! + by!]);
  const sign = signedArea(points) >= 0 ? 1 : -1;
  return [sign * ty!, -sign * tx!];
}

/**
 * Where the feather's outline runs: the path's polygon moved out (or, negative, in) by the width times the factor
 * there.
 */
export function featherOutline(points: readonly PathPoint[], widthPx: number): [number, number][] {
  const { polygon, weights } = featheredPolygon(points, 1, 0.5);
  const n = polygon.length / 2;
  const sign = signedArea(points) >= 0 ? 1 : -1;
  return Array.from({ length: n }, (_, i) => {
    const at = (k: number) => [polygon[2 * ((k + n) % n)]!, polygon[2 * ((k + n) % n) + 1]!] as const;
    const [[x0, y0], [x1, y1]] = [at(i - 1), at(i + 1)];
    const length = Math.hypot(x1 - x0, y1 - y0) || 1;
    const width = widthPx * (weights?.[i] ?? 1) * sign;
    return [at(i)[0] + ((y1 - y0) / length) * width, at(i)[1] - ((x1 - x0) / length) * width];
  });
}

/** Least distance, in screen pixels, of a feather's handle from the path, so that it can be told from the point. */
const FEATHER_HANDLE = 14;

/** All handles of a shape, those that lie on top first. */
export function handlesOf({ geometry, feather }: Shape, chosen: ReadonlySet<number>, px: number): Handle[] {
  if (geometry.form === 'gradient')
    return [
      { x: geometry.x0, y: geometry.y0, look: 'solid', grip: { kind: 'end', end: 0 } },
      { x: geometry.x1, y: geometry.y1, look: 'square', grip: { kind: 'end', end: 1 } },
    ];
  const path = pathOf(geometry);
  const points: Handle[] =
    geometry.form !== 'spline'
      ? []
      : geometry.points.flatMap((p, index): Handle[] => [
          {
            x: p.x,
            y: p.y,
            look: chosen.has(index) ? 'solid' : 'square',
            grip: { kind: 'point', index, part: 'point' },
          },
          ...(p.outX || p.outY
            ? [
                {
                  x: p.x + p.outX,
                  y: p.y + p.outY,
                  look: 'round',
                  grip: { kind: 'point', index, part: 'out' },
                } as Handle,
              ]
            : []),
          ...(p.inX || p.inY
            ? [{ x: p.x + p.inX, y: p.y + p.inY, look: 'round', grip: { kind: 'point', index, part: 'in' } } as Handle]
            : []),
        ]);
  const feathers = path.flatMap((p, index): Handle[] => {
    const [nx, ny] = outwardAt(path, index);
    const out = Math.max(feather.outerPx * (p.feather ?? 1), FEATHER_HANDLE * px);
    const outer: Handle = {
      x: p.x + nx * out,
      y: p.y + ny * out,
      look: 'diamond',
      grip: { kind: 'feather', side: 'outerPx', index },
    };
    if (index > 0) return [outer];
    const into = Math.max(feather.innerPx * (p.feather ?? 1), FEATHER_HANDLE * px);
    return [
      outer,
      { x: p.x - nx * into, y: p.y - ny * into, look: 'diamond', grip: { kind: 'feather', side: 'innerPx', index } },
    ];
  });
  const box = transformBox(geometry, chosen, px);
  const sizes = box
    ? CORNERS.map(([sx, sy]): Handle => ({
        x: boxPoint(box, sx, sy)[0],
        y: boxPoint(box, sx, sy)[1],
        look: 'square',
        grip: { kind: 'size', sx, sy },
      }))
    : [];
  const turn: Handle[] = box
    ? [
        {
          x: boxPoint(box, 0, -1 - (2 * TURN_HANDLE * px) / Math.max(box.height, 1))[0],
          y: boxPoint(box, 0, -1 - (2 * TURN_HANDLE * px) / Math.max(box.height, 1))[1],
          look: 'round',
          grip: { kind: 'turn' },
        },
      ]
    : [];
  // a corner does what two sides do, and a whole shape can be turned: what does least goes first where there is no room
  const corners = sizes.filter(({ grip }) => grip.kind === 'size' && grip.sx !== 0 && grip.sy !== 0);
  const sides = sizes.filter((each) => !corners.includes(each));
  return [...points, ...thinned(points, [...corners, ...turn, ...sides, ...feathers], CROWDED * px)];
}

/** Handles nearer to one another than this are in each other's way, screen pixels. */
const CROWDED = 11;
/** Those of the handles, in this order, that are no nearer to what is there already. Points of the path stay. */
function thinned(there: readonly Handle[], more: readonly Handle[], least: number): Handle[] {
  const kept: Handle[] = [];
  const isFree = (h: Handle) => [...there, ...kept].every((k) => Math.hypot(k.x - h.x, k.y - h.y) >= least);
  for (const handle of more) if (isFree(handle)) kept.push(handle);
  return kept;
}

/** Is a point inside the outline? Even-odd rule on the flattened path. */
export function inside(points: readonly PathPoint[], x: number, y: number): boolean {
  const { polygon } = featheredPolygon(points, 1, 0.5);
  let odd = false;
  for (let i = 0; i < polygon.length; i += 2) {
    const [px, py] = [polygon[i]!, polygon[i + 1]!];
    const [qx, qy] = [polygon[(i + 2) % polygon.length]!, polygon[(i + 3) % polygon.length]!];
    if (py > y !== qy > y && x < ((qx - px) * (y - py)) / (qy - py) + px) odd = !odd;
  }
  return odd;
}
