// A synthetic scene with known spill: a teal disc on grey, its bounce falling off on the ground, a fringe at the edge.
import type { Spill } from '../document/cleaning.ts';
import { describe, expect, it } from 'vitest';
import { linear709FromOklab, oklabFromLinear709 } from '../colour/oklab.ts';
import { sightingAt } from '../animate/sightingAt.ts';
import { recolourFrame, renderFrame } from './renderFrame.ts';
import type { SightingRender } from './sightingRender.ts';
import { makeTables, sourceFrame } from './sourceFrame.ts';
import { shiftProgram } from '../testing/recipes.ts';
import { NEUTRAL_RECIPE, NEUTRAL_SHIFT } from '../recolour/shift.ts';
import { findSpill, NO_SPILL } from '../matte/spill.ts';
import { PLAIN_LAYER } from '../testing/layers.ts';

const [W, H] = [160, 120];
const PIECE = oklabFromLinear709([0.045, 0.24, 0.235]);
const GROUND = oklabFromLinear709([0.3, 0.3, 0.3]);
const RED = oklabFromLinear709([0.4, 0.05, 0.04]);
const distanceFrom = (i: number) => Math.hypot((i % W) + 0.5 - 80, Math.floor(i / W) + 0.5 - 60) - 25;
const bounceAt = (d: number) => (d > 0 && d < 20 ? 0.35 * (1 - d / 20) : 0);

/** The scene in linear light as 16-bit codes, and the matte of its disc. */
function scene(withBounce: boolean, withStrip = true, ground = GROUND) {
  const codes = {
    width: W,
    height: H,
    r: new Float32Array(W * H),
    g: new Float32Array(W * H),
    b: new Float32Array(W * H),
  };
  const alpha = new Float32Array(W * H);
  for (let i = 0; i < W * H; i++) {
    const d = distanceFrom(i);
    const stripe = withStrip && i % W > 150;
    const bounce = withBounce ? bounceAt(d) : 0;
    const share = d <= 0 ? 1 : bounce;
    const from = stripe ? RED : ground;
    const mix = {
      L: d <= 0 ? PIECE.L : from.L,
      a: from.a + (PIECE.a - from.a) * share,
      b: from.b + (PIECE.b - from.b) * share,
    };
    [codes.r[i], codes.g[i], codes.b[i]] = linear709FromOklab(mix);
    alpha[i] = d <= 0 ? 1 : 0;
  }
  return { codes, alpha };
}
const tables = makeTables();
const spill = (mode: Spill['mode']): Spill => ({ ...NO_SPILL, mode, reachPx: 40 });
const layers: SightingRender['layers'] = [
  {
    ...PLAIN_LAYER,
    kind: 'shape',
    geometry: { form: 'ellipse', cx: 80, cy: 60, width: 50, height: 50, turnDeg: 0 },
    feather: { innerPx: 0, outerPx: 0, falloff: 'linear' },
  },
];
const turn = { ...NEUTRAL_SHIFT, hueDeg: -110 };
const labAt = ({ r, g, b }: { r: ArrayLike<number>; g: ArrayLike<number>; b: ArrayLike<number> }, i: number) =>
  oklabFromLinear709([r[i]!, g[i]!, b[i]!]);

describe('spill', () => {
  it('is looked for only in the part drawn for it, wherever the track it follows has carried that', () => {
    const { codes } = scene(true);
    const frame = sourceFrame(codes, 'linear709', 1, tables);
    const within = {
      geometry: { form: 'rectangle' as const, cx: 30, cy: 60, width: 40, height: 120, turnDeg: 0 },
      feather: { innerPx: 0, outerPx: 0, falloff: 'linear' as const },
      follow: { trackId: 't', move: true, turn: true, scale: true, shear: true, perspective: true },
    };
    // the track goes 80 px to the right until frame 10
    const motions = new Map([
      [
        't',
        {
          referenceFrame: 0,
          quad: [
            [0, 0],
            [20, 0],
            [20, 20],
            [0, 20],
          ] as const,
          known: new Map([
            [10, { motion: [1, 0, 80, 0, 1, 0, 0, 0, 1] as const, confidence: 1, by: 'track' as const }],
          ]),
        },
      ],
    ]);
    const sharesOn = (t: number) => {
      const now = sightingAt(
        { layers, ...NEUTRAL_RECIPE, shift: turn, spill: { ...spill('remove'), within } },
        t,
        motions,
      );
      const { share } = recolourFrame(frame, [now], tables).spills[0]!;
      const sums = [0, 0];
      share.forEach((v, i) => (sums[i % W < 80 ? 0 : 1] = sums[i % W < 80 ? 0 : 1]! + v));
      return sums;
    };
    const [[left, none], [nothing, right]] = [sharesOn(0), sharesOn(10)] as [[number, number], [number, number]];
    expect(left).toBeGreaterThan(20);
    expect(right).toBeGreaterThan(20);
    expect([none, nothing]).toEqual([0, 0]);
  });

  it('finds the bounce in proportion, and takes nothing of clean ground or of another colour', () => {
    const { codes, alpha } = scene(true);
    const frame = sourceFrame(codes, 'linear709', 1, tables);
    const map = findSpill(alpha, frame.oklabIn, W, H, spill('remove'), 1)!;
    let [off, worst] = [0, 0];
    for (let i = 0; i < W * H; i++) {
      const d = distanceFrom(i);
      if (d > 2 && d < 12) off = Math.max(off, Math.abs(map.share[i]! - bounceAt(d)));
      if (d <= 0 || d > 40) expect(map.share[i]).toBe(0);
      else if (d > 26) worst = Math.max(worst, map.share[i]!);
    }
    expect(off).toBeLessThan(0.08);
    // the red strip 5 px further on pulls at what is taken for the ground's colour: clean ground before it is called
    // spill so far
    expect(worst).toBeLessThan(0.13);
    const clean = scene(false, false);
    const none = findSpill(
      clean.alpha,
      sourceFrame(clean.codes, 'linear709', 1, tables).oklabIn,
      W,
      H,
      spill('remove'),
      1,
    )!;
    expect(Math.max(...none.share)).toBeLessThan(0.01);
  });
  it('finds the bounce on a coloured ground too, as a share of the way from its own colour to the piece’s', () => {
    const sand = oklabFromLinear709([0.42, 0.3, 0.16]);
    const { codes, alpha } = scene(true, false, sand);
    const map = findSpill(alpha, sourceFrame(codes, 'linear709', 1, tables).oklabIn, W, H, spill('remove'), 1)!;
    let [off, worst] = [0, 0];
    for (let i = 0; i < W * H; i++) {
      const d = distanceFrom(i);
      if (d > 2 && d < 12) off = Math.max(off, Math.abs(map.share[i]! - bounceAt(d)));
      if (d > 26) worst = Math.max(worst, map.share[i]!);
    }
    expect(off).toBeLessThan(0.08);
    expect(worst).toBeLessThan(0.05);
    // in the middle of the bounce the ground round it is known to be sand, the piece to be itself
    const at = 60 * W + 80 + 32;
    expect([map.surroundA[at]! - sand.a, map.surroundB[at]! - sand.b].every((v) => Math.abs(v) < 0.02)).toBe(true);
    expect([map.pieceA[at]! - PIECE.a, map.pieceB[at]! - PIECE.b].every((v) => Math.abs(v) < 0.02)).toBe(true);
  });
  it('goes by how far a colour lies off the way from ground to piece, whatever its lightness', () => {
    const { codes, alpha } = scene(true, false);
    // a patch of the bounce's own share, but off its way by so much in OKLab, and much darker
    const at = Math.floor(60) * W + 80 + 30;
    const share = bounceAt(distanceFrom(at));
    const along = { a: GROUND.a + (PIECE.a - GROUND.a) * share, b: GROUND.b + (PIECE.b - GROUND.b) * share };
    const length = Math.hypot(PIECE.a - GROUND.a, PIECE.b - GROUND.b);
    const [nx, ny] = [-(PIECE.b - GROUND.b) / length, (PIECE.a - GROUND.a) / length];
    const found = (off: number, L: number) => {
      const colour = linear709FromOklab({ L, a: along.a + off * nx, b: along.b + off * ny });
      [codes.r[at], codes.g[at], codes.b[at]] = colour;
      const frame = sourceFrame(codes, 'linear709', 1, tables);
      return findSpill(alpha, frame.oklabIn, W, H, { ...spill('remove'), tolerance: 0.03 }, 1)!.share[at]!;
    };
    const onTheWay = found(0, GROUND.L);
    expect(onTheWay).toBeGreaterThan(0.15);
    expect(found(0, 0.5 * GROUND.L) / onTheWay).toBeCloseTo(1, 1);
    // whole up to the tolerance, nothing from twice the tolerance on
    expect(found(0.025, GROUND.L) / onTheWay).toBeCloseTo(1, 1);
    expect(found(0.045, GROUND.L) / onTheWay).toBeLessThan(0.65);
    expect(found(0.065, GROUND.L)).toBeLessThan(0.02);
  });
  it('remove gives back the ground’s own colour; off leaves it', () => {
    const { codes } = scene(true);
    const frame = sourceFrame(codes, 'linear709', 1, tables);
    const render = (mode: Spill['mode']) =>
      renderFrame(frame, [{ layers, spill: spill(mode), program: shiftProgram(turn) }], tables);
    const i = 60 * W + 80 + 25 + 5;
    expect(Math.hypot(labAt(codes, i).a, labAt(codes, i).b)).toBeGreaterThan(0.015);
    const removed = labAt(render('remove').linear, i);
    expect(Math.hypot(removed.a, removed.b)).toBeLessThan(0.008);
    const source = labAt(codes, i);
    const left = labAt(render('off').linear, i);
    expect(left).toEqual(source);
  });
  it('leaves every pixel without spill exactly as it came in', () => {
    const { codes } = scene(true);
    const frame = sourceFrame(codes, 'linear709', 1, tables);
    const {
      codes: out,
      mattes,
      spills,
    } = renderFrame(frame, [{ layers, spill: spill('remove'), program: shiftProgram(turn) }], tables);
    let same = 0;
    for (let i = 0; i < W * H; i++)
      if (
        mattes[0]![i] === 0 &&
        spills[0]!.share[i] === 0 &&
        out.r[i] === codes.r[i] &&
        out.g[i] === codes.g[i] &&
        out.b[i] === codes.b[i]
      )
        same++;
    const untouched = mattes[0]!.reduce((n, a, i) => n + (a === 0 && spills[0]!.share[i] === 0 ? 1 : 0), 0);
    expect(same).toBe(untouched);
    expect(untouched).toBeGreaterThan(W * H * 0.4);
  });
});
