import type { PathPoint } from '../document/geometry.ts';

const number = (v: number): string => String(Number(v.toFixed(3)));

/** A closed path as SVG path data (SVG 1.1, chapter 8): absolute M, C and Z, to a thousandth of a pixel. */
export function svgFromPath(points: readonly PathPoint[]): string {
  const first = points[0];
  if (!first) return '';
  const curves = points.map((p, i) => {
    const q = points[(i + 1) % points.length]!;
    return `C${[p.x + p.outX, p.y + p.outY, q.x + q.inX, q.y + q.inY, q.x, q.y].map(number).join(' ')}`;
  });
  return `M${number(first.x)} ${number(first.y)}${curves.join('')}Z`;
}

const WANTED: Record<string, number> = { M: 2, L: 2, H: 1, V: 1, C: 6, S: 4, Z: 0 };

/**
 * A closed path from SVG path data: one subpath of moves, lines and cubic curves, absolute or relative. Throws
 * SyntaxError naming the command and where it stands.
 */
export function pathFromSvg(data: string): PathPoint[] {
  const points: PathPoint[] = [];
  let [x, y, controlX, controlY] = [0, 0, 0, 0];
  let begun = false;
  const add = (nx: number, ny: number) => {
    points.push({ x: nx, y: ny, inX: 0, inY: 0, outX: 0, outY: 0 });
    [x, y, controlX, controlY] = [nx, ny, nx, ny];
  };
  const curve = (x1: number, y1: number, x2: number, y2: number, nx: number, ny: number) => {
    const last = points.at(-1)!;
    [last.outX, last.outY] = [x1 - last.x, y1 - last.y];
    add(nx, ny);
    const made = points.at(-1)!;
    [made.inX, made.inY] = [x2 - nx, y2 - ny];
    [controlX, controlY] = [x2, y2];
  };
  // an e is no command: it stands in numbers
  const commands = /([a-df-z])((?:[^a-z]|e)*)/gi;
  for (let match = commands.exec(data); match; match = commands.exec(data)) {
    const [, letter = '', rest = ''] = match;
    const kind = letter.toUpperCase();
    const wanted = WANTED[kind];
    const where = `“${letter}” at character ${match.index + 1}`;
    if (wanted === undefined) throw new SyntaxError(`${where}: only M, L, H, V, C, S and Z can be read`);
    const numbers = (rest.match(/[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/gi) ?? []).map(Number);
    if (wanted === 0 ? numbers.length > 0 : numbers.length === 0 || numbers.length % wanted !== 0)
      throw new SyntaxError(`${where}: ${wanted} numbers are needed, ${numbers.length} are there`);
    if (kind === 'M' && begun) throw new SyntaxError(`${where}: a shape is one outline; this begins another`);
    if (kind !== 'M' && !begun) throw new SyntaxError(`${where}: path data must begin with M`);
    const relative = letter !== kind;
    for (let i = 0; i < Math.max(numbers.length, 1); i += Math.max(wanted, 1)) {
      const [ox, oy] = relative ? [x, y] : [0, 0];
      const n = (k: number) => numbers[i + k]!;
      if (kind === 'M' || kind === 'L') add(n(0) + ox, n(1) + oy);
      else if (kind === 'H') add(n(0) + ox, y);
      else if (kind === 'V') add(x, n(0) + oy);
      else if (kind === 'C') curve(n(0) + ox, n(1) + oy, n(2) + ox, n(3) + oy, n(4) + ox, n(5) + oy);
      else if (kind === 'S') curve(2 * x - controlX, 2 * y - controlY, n(0) + ox, n(1) + oy, n(2) + ox, n(3) + oy);
      begun = true;
    }
  }
  // a curve back to the start has brought the first point a second time
  const [first, last] = [points[0], points.at(-1)];
  if (first && last && points.length > 1 && Math.hypot(first.x - last.x, first.y - last.y) < 1e-3) {
    [first.inX, first.inY] = [last.inX, last.inY];
    points.pop();
  }
  if (points.length < 3)
    throw new SyntaxError(`a shape needs at least three points, the path data has ${points.length}`);
  return points;
}
