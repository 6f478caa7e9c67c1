import { about, moveBy, movedGeometry, pathOf, turnAbout, type BoxGeometry, type Geometry } from '@mellow/core';
import { boxPoint, outwardAt, transformBox, type Grip } from './shapeHandles.ts';
import type { At, Shape } from './tool.ts';

/** What a drag of a grip is called in the history. */
export function nameOf(grip: Grip, chosen: ReadonlySet<number>, to: Pick<At, 'alt'>): string {
  const several = chosen.size > 1 ? `${chosen.size} points` : '';
  const points = chosen.size === 1 ? 'a point' : several;
  switch (grip.kind) {
    case 'move':
      return `Move ${points}`;
    case 'turn':
      return `Turn ${points}`;
    case 'size':
      return `${to.alt ? 'Shear' : 'Scale'} ${points}`;
    case 'point':
      return grip.part === 'point' ? 'Move a point' : 'Bend the path';
    case 'feather':
      return grip.side === 'innerPx' ? 'Inner feather' : 'Outer feather';
    case 'end':
      return 'Move the gradient';
  }
}

/**
 * The shape after a grip has been dragged from one place to another. `chosen` are the points picked out of a spline.
 */
export function dragged(start: Shape, grip: Grip, from: At, to: At, chosen: ReadonlySet<number>): Shape {
  if (grip.kind === 'feather') return { ...start, ...featherDragged(start, grip, to) };
  return { ...start, geometry: geometryDragged(start.geometry, grip, from, to, chosen) };
}

function geometryDragged(
  start: Geometry,
  grip: Exclude<Grip, { kind: 'feather' }>,
  from: At,
  to: At,
  chosen: ReadonlySet<number>,
): Geometry {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const only = start.form === 'spline' && chosen.size > 0 ? chosen : undefined;
  switch (grip.kind) {
    case 'move':
      return movedGeometry(start, moveBy(dx, dy), only);
    case 'end':
      if (start.form !== 'gradient') return start;
      return grip.end === 0 ? { ...start, x0: to.x, y0: to.y } : { ...start, x1: to.x, y1: to.y };
    case 'point':
      return start.form === 'spline'
        ? { ...start, points: pointDragged(start.points, grip, dx, dy, to, chosen) }
        : start;
    case 'turn': {
      const box = transformBox(start, chosen, from.px);
      if (!box) return start;
      const angle = (at: At) => (Math.atan2(at.y - box.cy, at.x - box.cx) * 180) / Math.PI;
      const raw = angle(to) - angle(from);
      return movedGeometry(start, turnAbout(box.cx, box.cy, to.shift ? Math.round(raw / 15) * 15 : raw), only);
    }
    case 'size': {
      const box = transformBox(start, chosen, from.px);
      if (!box) return start;
      if (to.alt && (grip.sx === 0 || grip.sy === 0)) return sheared(start, box, grip, dx, dy, only);
      return start.form === 'spline'
        ? scaled(start, box, grip, dx, dy, to.shift, only)
        : resized(start as BoxGeometry, grip, dx, dy);
    }
  }
}

function pointDragged(
  points: Extract<Geometry, { form: 'spline' }>['points'],
  grip: Extract<Grip, { kind: 'point' }>,
  dx: number,
  dy: number,
  to: At,
  chosen: ReadonlySet<number>,
) {
  return points.map((p, i) => {
    if (grip.part === 'point')
      return i === grip.index || (chosen.has(grip.index) && chosen.has(i)) ? { ...p, x: p.x + dx, y: p.y + dy } : p;
    if (i !== grip.index) return p;
    const [hx, hy] = [to.x - p.x, to.y - p.y];
    // the opposite handle follows, so the curve stays smooth; Shift lets it stay
    if (grip.part === 'out') return { ...p, outX: hx, outY: hy, ...(!to.shift && { inX: -hx, inY: -hy }) };
    return { ...p, inX: hx, inY: hy, ...(!to.shift && { outX: -hx, outY: -hy }) };
  });
}

/** A side or corner of a rectangle or an ellipse moves; the opposite one stays where it is. */
function resized(start: BoxGeometry, { sx, sy }: { sx: number; sy: number }, dx: number, dy: number): Geometry {
  const [cos, sin] = [Math.cos((start.turnDeg * Math.PI) / 180), Math.sin((start.turnDeg * Math.PI) / 180)];
  const [u, v] = [dx * cos + dy * sin, -dx * sin + dy * cos];
  const width = Math.max(start.width + sx * u, 1);
  const height = Math.max(start.height + sy * v, 1);
  const [ox, oy] = [(sx * (width - start.width)) / 2, (sy * (height - start.height)) / 2];
  return { ...start, width, height, cx: start.cx + ox * cos - oy * sin, cy: start.cy + ox * sin + oy * cos };
}

type Box = NonNullable<ReturnType<typeof transformBox>>;
/** Points scaled about the opposite side or corner of their box; Shift keeps the proportions. */
function scaled(
  start: Geometry,
  box: Box,
  { sx, sy }: { sx: number; sy: number },
  dx: number,
  dy: number,
  even: boolean,
  only: ReadonlySet<number> | undefined,
): Geometry {
  const [ox, oy] = boxPoint(box, -sx, -sy);
  let kx = sx === 0 ? 1 : Math.max((box.width + sx * dx) / box.width, 0.01);
  let ky = sy === 0 ? 1 : Math.max((box.height + sy * dy) / box.height, 0.01);
  // a corner grows both ways alike, a side the way it is pulled
  const pulled = [...(sx === 0 ? [] : [kx]), ...(sy === 0 ? [] : [ky])];
  if (even) kx = ky = Math.max(...pulled);
  return movedGeometry(start, about(ox, oy, [kx, 0, 0, ky]), only);
}

/** A side slides along itself, the opposite one stays: a shear in the box's own axes. */
function sheared(
  start: Geometry,
  box: Box,
  { sx, sy }: { sx: number; sy: number },
  dx: number,
  dy: number,
  only: ReadonlySet<number> | undefined,
): Geometry {
  const [ox, oy] = boxPoint(box, -sx, -sy);
  const [cos, sin] = [Math.cos((box.turnDeg * Math.PI) / 180), Math.sin((box.turnDeg * Math.PI) / 180)];
  const [u, v] = [dx * cos + dy * sin, -dx * sin + dy * cos];
  // in the box's axes: x′ = x + p·y, y′ = q·x + y; turned back: R · S · R⁻¹
  const p = sy === 0 ? 0 : (u * sy) / box.height;
  const q = sx === 0 ? 0 : (v * sx) / box.width;
  const a = 1 - sin * cos * (p + q);
  const c = p * cos * cos - q * sin * sin;
  const b = q * cos * cos - p * sin * sin;
  const d = 1 + sin * cos * (p + q);
  return movedGeometry(start, about(ox, oy, [a, b, c, d]), only);
}

/** A feather's outline is pulled to the pointer: all round, or with Shift at this point of a spline only. */
function featherDragged(
  { geometry, feather }: Shape,
  { side, index }: Extract<Grip, { kind: 'feather' }>,
  to: At,
): Partial<Shape> {
  const path = pathOf(geometry);
  const p = path[index]!;
  const [nx, ny] = outwardAt(path, index);
  const width = Math.min(Math.max(((to.x - p.x) * nx + (to.y - p.y) * ny) * (side === 'outerPx' ? 1 : -1), 0), 2000);
  const rounded = Math.round(width * 10) / 10;
  if (to.shift && geometry.form === 'spline' && feather[side] > 0) {
    const factor = Math.min(Math.round((width / feather[side]) * 100) / 100, 100);
    return {
      geometry: {
        ...geometry,
        points: geometry.points.map((each, i) => (i === index ? { ...each, feather: factor } : each)),
      },
    };
  }
  return {
    feather: {
      ...feather,
      [side]: (p.feather ?? 1) > 0 ? Math.round((rounded / (p.feather ?? 1)) * 10) / 10 : rounded,
    },
  };
}
