// The lantern of the pick-up: no colour to key, so an outline, its opening, and what crosses it, on a track.
import { expect, type Page } from '@playwright/test';
import type { Driver } from './driving.ts';
import { LANTERN_OPENING, LANTERN_OUTLINE, LANTERN_WHEEL, LANTERN_WIRE_LEFT, LANTERN_WIRE_RIGHT } from './outlines.ts';
import { follow, trackRegion } from './tracking.ts';

const PARTS = [LANTERN_OUTLINE, LANTERN_OPENING, LANTERN_WHEEL, LANTERN_WIRE_LEFT, LANTERN_WIRE_RIGHT];

/** Draws it on its frame; the Isolate stage is open. */
export async function outlineLantern(d: Driver): Promise<void> {
  await d.piece('Lantern');
  await d.shot('5 Gate');
  await d.goTo(24);
  // the new shot's own picture: the first that comes fits the view to it
  await expect(d.page.locator('.viewport canvas[role="img"][data-frame="24"]')).toBeVisible();
  await expect(d.page.getByRole('img', { name: /^5 Gate, frame 24/ })).toBeVisible();
  await d.shown();
  await d.zoomAt([206, 250], 615);
  for (const [i, part] of PARTS.entries()) {
    await d.drawSpline(part, `Spline ${i + 1}`);
    if (i > 0) await d.combine(`Spline ${i + 1}`, 'without');
  }
}
/** The outlines follow a track of it through the whole shot. */
export async function followLantern(d: Driver, page: Page): Promise<void> {
  const track = await trackRegion(
    d,
    page,
    [
      [118, 152],
      [304, 408],
    ],
    ['perspective'],
  );
  for (const i of PARTS.keys()) await follow(d, page, `Spline ${i + 1}`, track);
}
