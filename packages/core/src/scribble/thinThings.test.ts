// A disc behind wires: what is left out of it, and what stays in.
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../track/random.ts';
import { straightLines } from './straightLines.ts';
import { leaveOutThinThings } from './thinThings.ts';

const [W, H] = [480, 320];
const [CX, CY, R] = [240, 160, 110];
const isDisc = (i: number) => Math.hypot((i % W) - CX, Math.floor(i / W) - CY) < R;
/** A wire that goes through all of the picture, 5 pixels wide, a little oblique. */
const isWire = (i: number) => Math.abs((i % W) - 200 - 0.1 * Math.floor(i / W)) <= 2;
/** A stripe of the disc itself, which ends with it. */
const isStripe = (i: number) => isDisc(i) && Math.abs(Math.floor(i / W) - 120) <= 2;

type Colour = readonly [L: number, a: number, b: number];
const [GROUND, DISC, WIRE, STRIPE]: Colour[] = [
  [0.4, 0, 0],
  [0.6, 0.15, 0.05],
  [0.75, 0, 0],
  [0.85, 0.02, 0.12],
] as never;
function picture() {
  const random = seededRandom(5);
  const oklab = { L: new Float32Array(W * H), a: new Float32Array(W * H), b: new Float32Array(W * H) };
  for (let i = 0; i < W * H; i++) {
    const behind = isDisc(i) ? DISC : GROUND;
    const here = isStripe(i) ? STRIPE : behind;
    const [L, a, b] = isWire(i) ? WIRE! : here!;
    oklab.L[i] = L + 0.02 * (random() - 0.5);
    oklab.a[i] = a;
    oklab.b[i] = b;
  }
  return { width: W, height: H, oklab };
}
const NOT_OF_DISC = (i: number) => (isWire(i) ? -1 : 3);
/** The disc with all that lies before it, less what is left out. */
function left(oddsAt: (i: number) => number, marks = new Int8Array(W * H)) {
  const mask = Float32Array.from({ length: W * H }, (_, i) => (isDisc(i) ? 1 : 0));
  leaveOutThinThings(mask, picture(), marks, oddsAt, 0.5);
  const shareOf = (wanted: (i: number) => boolean) => {
    let [of, all] = [0, 0];
    for (let i = 0; i < mask.length; i++)
      if (isDisc(i) && wanted(i)) {
        of += mask[i]!;
        all++;
      }
    return of / all;
  };
  return { wire: shareOf(isWire), disc: shareOf((i) => !isWire(i) && !isStripe(i)), stripe: shareOf(isStripe) };
}

describe('thin things in front', () => {
  it('leaves out a wire of the surroundings’ colours, and nothing of what it passes', () => {
    const { wire, disc, stripe } = left(NOT_OF_DISC);
    expect(wire).toBeLessThan(0.03);
    expect(disc).toBeGreaterThan(0.98);
    expect(stripe).toBeGreaterThan(0.9);
  });
  it('needs less of colour where the wire goes on outside, and keeps what is by colour the piece’s', () => {
    expect(left((i) => (isWire(i) ? -0.1 : 3)).wire).toBeLessThan(0.03);
    expect(left(() => 3).wire).toBe(1);
  });
  it('keeps a stripe that ends with the piece, unless its colours are the surroundings’', () => {
    expect(left((i) => (isStripe(i) ? -0.1 : 3)).stripe).toBe(1);
    expect(left((i) => (isStripe(i) ? -1 : 3)).stripe).toBeLessThan(0.1);
  });
  it('lets a stroke cross it, and keeps what a stroke that takes in runs along', () => {
    const marked = (wanted: (i: number) => boolean) => Int8Array.from({ length: W * H }, (_, i) => (wanted(i) ? 1 : 0));
    const across = marked((i) => isDisc(i) && Math.abs(Math.floor(i / W) - 180) <= 4);
    expect(left(NOT_OF_DISC, across).wire).toBeLessThan(0.03);
    const along = marked((i) => isDisc(i) && isWire(i) && Math.floor(i / W) < 160);
    expect(left(NOT_OF_DISC, along).wire).toBe(1);
  });
  it('leaves an empty mask empty', () => {
    const mask = new Float32Array(W * H);
    leaveOutThinThings(mask, picture(), new Int8Array(W * H), () => -4, 0.5);
    expect(mask.includes(1)).toBe(false);
  });
});

describe('straight lines', () => {
  const set = (wanted: (x: number, y: number) => boolean) =>
    Uint8Array.from({ length: W * H }, (_, i) => (wanted(i % W, Math.floor(i / W)) ? 1 : 0));
  const lines = (wanted: (x: number, y: number) => boolean) => straightLines(set(wanted), W, H, 8, 40);
  it('finds each of two that cross as one, over its whole length', () => {
    const found = lines((x, y) => Math.abs(x - 100) <= 1 || Math.abs(y - 0.4 * x - 20) <= 1.5);
    expect(found).toHaveLength(2);
    const rows = found.map((line) => new Set(Array.from(line, (i) => Math.floor(i / W))).size);
    const columns = found.map((line) => new Set(Array.from(line, (i) => i % W)).size);
    expect(Math.max(...rows)).toBeGreaterThan(0.95 * H);
    expect(Math.max(...columns)).toBeGreaterThan(0.95 * W);
  });
  it('finds none that is short, wide, or round', () => {
    expect(lines((x, y) => Math.abs(x - 100) <= 1 && y < 30)).toEqual([]);
    expect(lines((x) => Math.abs(x - 100) <= 6)).toEqual([]);
    expect(lines((x, y) => Math.hypot(x - 240, y - 160) < 60)).toEqual([]);
  });
  it('takes the two halves of one that is broken off for two', () => {
    const found = lines((x, y) => Math.abs(x - 100) <= 1 && (y < 120 || y > 180));
    expect(found).toHaveLength(2);
  });
});
