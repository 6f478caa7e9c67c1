import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  compose,
  homographyOfQuads,
  inverted,
  isSoundQuad,
  jacobianAt,
  project,
  projectQuad,
  STILL,
  type Homography,
  type Quad,
} from './homography.ts';
import { knownMotions } from './knownMotions.ts';
import { MotionModel } from './motionModel.ts';
import { motionAt, partOfMotion } from './trackMotion.ts';

const quad: Quad = [
  [100, 100],
  [200, 100],
  [200, 180],
  [100, 180],
];
const region = { form: 'spline' as const, points: quad.map(([x, y]) => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 })) };
const all = { move: true, turn: true, scale: true, shear: true, perspective: true };
const shift = (dx: number, dy: number): Homography => [1, 0, dx, 0, 1, dy, 0, 0, 1];
const small = fc.double({ min: -0.3, max: 0.3, noNaN: true });
const homography = fc
  .tuple(small, small, small, small, small, small)
  .map(([a, b, c, d, e, f]): Homography => [1 + a, b, 40 * e, c, 1 + d, 40 * f, a / 2000, d / 2000, 1]);

describe('homographies', () => {
  it('are found from four corners and undone by their inverse', () => {
    fc.assert(
      fc.property(homography, (h) => {
        const found = homographyOfQuads(quad, projectQuad(h, quad))!;
        const [x, y] = project(found, 150, 130);
        const [u, v] = project(h, 150, 130);
        expect(Math.hypot(x - u, y - v)).toBeLessThan(1e-6);
        const [p, q] = project(compose(inverted(h), h), 150, 130);
        expect(Math.hypot(p - 150, q - 130)).toBeLessThan(1e-9);
      }),
    );
  });
  it('have the derivative that small steps show', () => {
    fc.assert(
      fc.property(homography, (h) => {
        const [a, b, c, d] = jacobianAt(h, 150, 130);
        const e = 1e-4;
        const [x0, y0] = project(h, 150, 130);
        const [x1, y1] = project(h, 150 + e, 130);
        const [x2, y2] = project(h, 150, 130 + e);
        for (const [got, want] of [
          [a, (x1 - x0) / e],
          [c, (y1 - y0) / e],
          [b, (x2 - x0) / e],
          [d, (y2 - y0) / e],
        ] as const)
          expect(Math.abs(got - want)).toBeLessThan(1e-3);
      }),
    );
  });
  it('know a folded or mirrored quadrilateral', () => {
    expect(isSoundQuad(quad, quad)).toBe(true);
    expect(isSoundQuad([quad[0], quad[2], quad[1], quad[3]], quad)).toBe(false);
    expect(isSoundQuad([quad[1], quad[0], quad[3], quad[2]], quad)).toBe(false);
  });
});

describe('a motion model', () => {
  it('finds a motion of its kind again from where points went', () => {
    const model = new MotionModel(all, 150, 140, 50);
    fc.assert(
      fc.property(homography, (h) => {
        const from = Float64Array.from(quad.flatMap((p) => [...p]));
        const to = Float64Array.from(projectQuad(h, quad).flatMap((p) => [...p]));
        const found = model.fit(STILL, from, to, undefined, [0, 1, 2, 3], 30);
        // far motions may lie outside the reach of one fit
        if (!found) return;
        expect(
          Math.max(...projectQuad(found, quad).map((p, i) => Math.hypot(p[0] - to[2 * i]!, p[1] - to[2 * i + 1]!))),
        ).toBeLessThan(1e-3);
      }),
    );
  });
  it('keeps to the kinds it is allowed', () => {
    const model = new MotionModel({ ...all, shear: false, perspective: false }, 150, 140, 50);
    expect(model.size).toBe(4);
    const h = model.step([0.1, 0.2, 0.05, 0.1]);
    const [a, b, c, d] = jacobianAt(h, 10, 20);
    expect(a).toBeCloseTo(d, 12);
    expect(b).toBeCloseTo(-c, 12);
    expect([h[6], h[7]]).toEqual([0, 0]);
  });
});

describe('the parts of a motion', () => {
  it('are all of it with all on, and a plain move with only that', () => {
    fc.assert(
      fc.property(homography, (h) => {
        expect(partOfMotion(h, quad, all)).toBe(h);
        const [cx, cy] = [150, 140];
        const moved = partOfMotion(h, quad, { ...all, turn: false, scale: false, shear: false, perspective: false });
        const [u, v] = project(h, cx, cy);
        expect(moved[2]).toBeCloseTo(u - cx, 9);
        expect(moved[5]).toBeCloseTo(v - cy, 9);
        expect([moved[0], moved[1], moved[3], moved[4]]).toEqual([1, 0, 0, 1]);
      }),
    );
  });
  it('leave size alone without scale, and angles without turn', () => {
    const turned: Homography = [
      1.5 * Math.cos(0.4),
      -1.5 * Math.sin(0.4),
      7,
      1.5 * Math.sin(0.4),
      1.5 * Math.cos(0.4),
      -3,
      0,
      0,
      1,
    ];
    const [a, b, c, d] = jacobianAt(partOfMotion(turned, quad, { ...all, scale: false }), 150, 140);
    expect(a * d - b * c).toBeCloseTo(1, 9);
    const still = jacobianAt(partOfMotion(turned, quad, { ...all, turn: false }), 150, 140);
    expect(still[1]).toBeCloseTo(0, 9);
    expect(still[0]).toBeCloseTo(1.5, 9);
  });
});

describe('what is known of a track', () => {
  const runs = {
    a: [1, 2, 3, 4].map((f) => ({ frame: f, motion: shift(f, 0), confidence: 0.9 })),
    b: [3, 4].map((f) => ({ frame: f, motion: shift(f * 10, 0), confidence: 0.8 })),
    c: [9, 10].map((f) => ({ frame: f, motion: shift(f, 0), confidence: 0.7 })),
  };
  const track = (more: object = {}) =>
    knownMotions(
      { referenceFrame: 0, region, runs: [{ id: 'a', first: 0, last: 10 }], manual: [], ...more },
      (id) => runs[id as 'a'] ?? [],
    );
  const x = (t: ReturnType<typeof track>, f: number) => motionAt(t, f).motion[2];

  it('has the bend where it was tracked, and passes over corners that make no motion', () => {
    const bent = { ...runs.a[0]!, flex: [1, 2] };
    const flat = [quad[0], quad[0], quad[0], quad[0]] as unknown as Quad;
    const manual = [
      { frame: 2, corners: projectQuad(shift(0, 5), quad) as never },
      { frame: 7, corners: flat as never },
    ];
    const all = [{ id: 'a', first: 0, last: 10 }];
    const by = knownMotions({ referenceFrame: 0, region, runs: all, manual }, () => [bent, ...runs.a.slice(1)]).known;
    expect([by.get(1)!.flex, by.get(1)!.by, by.get(2)!.by]).toEqual([[1, 2], 'track', 'hand']);
    expect(Object.keys(by.get(3)!)).not.toContain('flex');
    expect(by.has(7)).toBe(false);
  });
  it('knows nothing of frames that were binned', () => {
    const cut = track({ runs: [{ id: 'a', first: 2, last: 3 }] });
    expect([...cut.known.keys()]).toEqual([2, 3]);
    expect(motionAt(cut, 8)).toMatchObject({ state: 'held' });
  });
  it('is the later run, cut to the frames kept of it; a hand-set frame comes before both', () => {
    expect(x(track(), 3)).toBe(3);
    expect(
      x(
        track({
          runs: [
            { id: 'a', first: 0, last: 10 },
            { id: 'b', first: 4, last: 4 },
          ],
        }),
        3,
      ),
    ).toBe(3);
    expect(
      x(
        track({
          runs: [
            { id: 'a', first: 0, last: 10 },
            { id: 'b', first: 4, last: 4 },
          ],
        }),
        4,
      ),
    ).toBe(40);
    const byHand = track({ manual: [{ frame: 4, corners: projectQuad(shift(0, 50), quad) }] });
    expect(motionAt(byHand, 4)).toMatchObject({ state: 'manual', confidence: 1 });
    expect(motionAt(byHand, 4).motion[5]).toBeCloseTo(50, 9);
  });
  it('goes on evenly through a gap when it moves evenly on both sides, and stays at the ends', () => {
    const gap = track({
      runs: [
        { id: 'a', first: 0, last: 10 },
        { id: 'c', first: 0, last: 10 },
      ],
    });
    for (const f of [5, 6, 7, 8]) {
      expect(motionAt(gap, f).state).toBe('between');
      expect(x(gap, f)).toBeCloseTo(f, 6);
    }
    expect(motionAt(gap, 30)).toMatchObject({ state: 'held' });
    expect(x(gap, 30)).toBe(10);
    expect(motionAt(gap, 0).motion).toEqual(STILL);
  });
});
