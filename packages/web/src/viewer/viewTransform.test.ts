import { describe, expect, it } from 'vitest';
import { project, type Homography } from '@mellow/core';
import { ViewTransform } from './viewTransform.ts';

const FULL = { width: 1920, height: 1080 };
const VIEW = { width: 1000, height: 624 };
const fitted = (pane = VIEW.width): ViewTransform => {
  const view = new ViewTransform();
  view.fit(FULL, VIEW, pane);
  return view;
};

describe('a picture fitted into the view', () => {
  it('is as large as may be, in the middle', () => {
    const view = fitted();
    expect(view.zoom).toBeCloseTo(976 / 1920, 9);
    expect(view.toScreen(960, 540)).toEqual([500, 312]);
  });
  it('takes half the width beside another', () => expect(fitted(500).zoom).toBeCloseTo(476 / 1920, 9));
  it('is no longer fitted after a zoom or a pan', () => {
    const [zoomed, panned] = [fitted(), fitted()];
    zoomed.zoomAbout(2, 0, 0);
    panned.pan(1, 0);
    expect([zoomed.isFitted, panned.isFitted, fitted().isFitted]).toEqual([false, false, true]);
  });
});

it('zooming leaves the point under the pointer where it is, between its limits', () => {
  const view = fitted();
  const before = view.toPicture(300, 200);
  view.zoomAbout(3, 300, 200);
  expect(view.toPicture(300, 200).x).toBeCloseTo(before.x, 9);
  expect(view.toPicture(300, 200).y).toBeCloseTo(before.y, 9);
  view.zoomAbout(1000, 0, 0);
  expect(view.zoom).toBe(64);
  view.zoomAbout(0, 0, 0);
  expect(view.zoom).toBe(0.02);
});

describe('a track held still', () => {
  // turned by some 8°, grown and moved, with a little perspective
  const motion: Homography = [1.1, -0.15, 30, 0.15, 1.1, -12, 1e-5, 2e-5, 1];
  const centre = [700, 400] as const;
  it('shows its centre where it was on its reference frame', () => {
    const [still, view] = [fitted(), fitted()];
    view.hold(motion, centre);
    const [x, y] = view.toScreen(...project(motion, ...centre));
    expect([x, y].map((v, i) => v - still.toScreen(...centre)[i]!).every((d) => Math.abs(d) < 1e-6)).toBe(true);
  });
  it('finds the picture pixel under the pointer again', () => {
    const view = fitted();
    view.hold(motion, centre);
    const { x, y } = view.toPicture(...view.toScreen(123, 456));
    expect([x, y]).toEqual([expect.closeTo(123, 6), expect.closeTo(456, 6)]);
    expect(view.scale).not.toBeCloseTo(view.zoom, 3);
  });
  it('moves again when let go', () => {
    const view = fitted();
    view.hold(motion, centre);
    view.hold(undefined, centre);
    expect([view.isHeld, view.toScreen(0, 0)]).toEqual([false, fitted().toScreen(0, 0)]);
  });
});
