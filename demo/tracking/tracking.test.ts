// The tracker on sequences with known motion made from photographs, half as long as those of the bench: error in pixels
// against the truth, and honesty where there is nothing to see. Bounds are those the product promises.
import { expect, it } from 'vitest';
import { ALL, covers, follow, followSoft, mean, MOVE, SIMILAR, usual } from './sequences.ts';

const small = { width: 480, height: 360, frames: 44, zoom: [0.8, 1.25], turnDeg: 14, panPx: 30 } as const;
const shift = (from: number, to: number, share: number, by: string, enters: 'slides' | 'at once' = 'slides') =>
  covers(share, by, enters, from, to);

it('follows a textured plane through a third of cover to a tenth of a pixel, and never stops', () => {
  const { errors, stopped, confidences } = follow(
    usual('astronaut.png', [130, 180, 340, 380], 5, { ...small, ...shift(16, 28, 0.3, 'brick.png') }),
  );
  expect(stopped).toBeUndefined();
  expect(mean(errors)).toBeLessThanOrEqual(0.1);
  expect(Math.max(...errors)).toBeLessThanOrEqual(0.8);
  expect(confidences.every((c) => c >= 0 && c <= 1)).toBe(true);
  // it says when less of the region is seen
  expect(mean(confidences.slice(19, 26))).toBeLessThan(mean(confidences.slice(0, 12)) - 0.15);
});

it('follows a weak texture (an eighth of the contrast) to 0.15 px', () => {
  const { errors, stopped } = follow(
    usual('astronaut.png', [130, 180, 340, 380], 6, { ...small, ...shift(16, 28, 0.3, 'grass.png'), contrast: 0.125 }),
  );
  expect(stopped).toBeUndefined();
  expect(mean(errors)).toBeLessThanOrEqual(0.15);
  expect(Math.max(...errors)).toBeLessThanOrEqual(1);
});

it('holds with 55 % covered, or stops before it is 3 px off; as a hold-out it does not stop', () => {
  const spec = usual('coffee.png', [200, 120, 420, 320], 7, { ...small, ...shift(16, 28, 0.55, 'brick.png') });
  const open = follow(spec);
  expect(mean(open.errors)).toBeLessThanOrEqual(0.2);
  expect(Math.max(...open.errors)).toBeLessThanOrEqual(2);
  const held = follow(spec, ALL, true);
  expect(held.stopped).toBeUndefined();
  expect(mean(held.errors)).toBeLessThanOrEqual(0.2);
});

it('follows jumps from frame to frame, a third of a region’s size and 8° at once, by what lies around it too', () => {
  const jumps = { ...small, frames: 12, zoom: [0.8, 1.25], turnDeg: 25, panPx: 50, occluder: undefined } as const;
  const { errors, stopped } = follow(usual('parrot.png', [190, 190, 290, 290], 3, jumps));
  expect(stopped).toBeUndefined();
  expect(mean(errors)).toBeLessThanOrEqual(0.5);
  // bricks look like those beside them: it stops rather than go on with another
  const bricks = follow(usual('brick.png', [200, 200, 300, 300], 3, jumps));
  expect(Math.max(...bricks.errors)).toBeLessThanOrEqual(1);
});

it('holds while a strip over 55 % of the region crosses it, to a pixel: three of three', () => {
  for (const [photo, region, seed, by] of [
    ['astronaut.png', [130, 180, 340, 380], 31, 'brick.png'],
    ['parrot.png', [140, 140, 340, 340], 32, 'grass.png'],
    ['coffee.png', [200, 120, 420, 320], 33, 'brick.png'],
  ] as const) {
    const crossed = { ...small, ...covers(0.55, by, 'crosses', 8, 36) };
    const { errors, stopped } = follow(usual(photo, [...region], seed, crossed));
    expect([photo, stopped]).toEqual([photo, undefined]);
    expect(Math.max(...errors)).toBeLessThanOrEqual(1);
  }
});

it('is better still when the motion is known to be simpler', () => {
  const similar = follow(
    usual('grass.png', [150, 150, 350, 350], 8, {
      ...small,
      turnDeg: 8,
      ...shift(16, 28, 0.3, 'brick.png'),
      perspective: 0,
    }),
    SIMILAR,
  );
  expect(mean(similar.errors)).toBeLessThanOrEqual(0.05);
  expect(Math.max(...similar.errors)).toBeLessThanOrEqual(0.2);
  const moved = follow(
    usual('parrot.png', [140, 140, 340, 340], 9, {
      ...small,
      perspective: 0,
      zoom: [1, 1],
      turnDeg: 0,
      ...shift(16, 28, 0.3, 'brick.png'),
    }),
    MOVE,
  );
  expect(mean(moved.errors)).toBeLessThanOrEqual(0.05);
});

it('notices full cover within two frames and says so', () => {
  for (const by of ['brick.png', 'grey'] as const) {
    const { stopped, errors } = follow(
      usual('astronaut.png', [130, 180, 340, 380], 10, { ...small, frames: 16, ...shift(10, 20, 1.2, by, 'at once') }),
    );
    expect(stopped?.reason).toBe('covered');
    expect(stopped!.frame).toBeLessThanOrEqual(11);
    expect(Math.max(...errors)).toBeLessThanOrEqual(1);
  }
});

it('refuses a blank region before it has moved', () => {
  const blank = follow(usual('astronaut.png', [130, 180, 340, 380], 11, { ...small, frames: 4, contrast: 0 }));
  expect(blank.stopped).toMatchObject({ frame: 1, reason: 'no texture' });
  expect(blank.textureErrorPx).toBeGreaterThan(0.8);
});

it('stops when the region leaves the picture, without having gone astray', () => {
  const { stopped, errors } = follow(
    usual('astronaut.png', [130, 180, 340, 380], 12, {
      ...small,
      panPx: 270,
      zoom: [1, 1],
      turnDeg: 0,
      perspective: 0,
      occluder: undefined,
    }),
  );
  expect(stopped?.reason).toBe('left the picture');
  expect(Math.max(...errors)).toBeLessThanOrEqual(3);
});

it('does not run off with a bright textured occluder over a dark, nearly flat region', () => {
  const { stopped, errors } = follow(
    usual('coffee.png', [480, 20, 590, 140], 13, {
      ...small,
      ...shift(16, 28, 0.5, 'grass.png'),
      contrast: 0.3,
      lift: -0.1,
    }),
  );
  expect(Math.max(...errors)).toBeLessThanOrEqual(3);
  if (stopped) expect(stopped.errorPx).toBeLessThanOrEqual(3);
});

it('follows a soft surface point by point: a 6 px wave to well under 1.3 px, a third of it covered on the way', () => {
  const errors = followSoft(
    usual('astronaut.png', [120, 150, 380, 400], 31, {
      frames: 30,
      turnDeg: 5,
      zoom: [0.9, 1.15],
      blurPx: 0,
      wave: { px: 6, lengthPx: 200 },
      ...shift(14, 24, 0.3, 'brick.png'),
    }),
  );
  expect(errors).toHaveLength(29);
  expect(mean(errors)).toBeLessThanOrEqual(1.3);
});

// places that were looked at while the tracker of patches was made
it.each([
  ['parrot.png', [148, 63, 172, 87]],
  ['grass.png', [238, 238, 262, 262]],
] as const)(
  'follows a patch of 24 pixels of %s to a quarter of a pixel, and says when it is covered',
  (photo, region) => {
    const calm = { ...small, frames: 24, zoom: [0.95, 1.08], turnDeg: 5, perspective: 0, blurPx: 1 } as const;
    const free = follow(usual(photo, region, 21, { ...calm, occluder: undefined }), SIMILAR);
    expect(free.stopped).toBeUndefined();
    expect(mean(free.errors)).toBeLessThanOrEqual(0.25);
    const hidden = follow(usual(photo, region, 21, { ...calm, ...shift(8, 20, 0.9, 'brick.png') }), SIMILAR);
    expect(hidden.stopped?.reason).toBe('covered');
    expect(Math.max(...hidden.errors)).toBeLessThanOrEqual(1);
  },
);
