// A point of a spline with a feather of 25 px is dragged, and the whole stack with it: how long until each picture is
// shown, by the application's own marks, no place twice.
import type { Page } from '@playwright/test';
import { Driver, type Place } from '../e2e/driving.ts';
import type { TestServer } from '../e2e/server.ts';

const FEATHER_PX = 25;
const MOVES = 120;
const MOVE_MS = 60;

/** Corners on an ellipse round the scarf of the platform, in picture pixels. */
const CORNERS: Place[] = Array.from({ length: 8 }, (_, i) => {
  const turn = (i * Math.PI) / 4;
  return [735 + 110 * Math.cos(turn), 240 + 150 * Math.sin(turn)];
});

/** The scarf's sighting with its shape as a spline that is feathered widely. */
export function splined<Layer extends object>(layers: readonly Layer[]): Layer[] {
  return layers.map((layer) => {
    if (!('kind' in layer) || layer.kind !== 'shape') return layer;
    const points = CORNERS.map(([x, y]) => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 }));
    const feather = { innerPx: 1, outerPx: FEATHER_PX, falloff: 'smooth' };
    return { ...layer, geometry: { form: 'spline', points }, feather };
  });
}

/** Times in ms, rising. Throws where nothing followed the hand. */
export async function benchSplineDrag(page: Page, server: TestServer): Promise<number[]> {
  const d = new Driver(page, server);
  await d.stage('Isolate');
  const { layers } = (await d.sighting('Scarf', '1 Platform'))!;
  await d.layer(layers.find(({ kind }) => kind === 'shape')!.name);
  await page.waitForTimeout(1500);
  const [x, y] = await d.onScreen(...CORNERS[0]!);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.evaluate(() => performance.clearMeasures());
  for (let i = 1; i <= MOVES; i++) {
    await page.mouse.move(x + i / 2, y + i / 3);
    await page.waitForTimeout(MOVE_MS);
  }
  const times = await page.evaluate(() => performance.getEntriesByName('mellow:shown').map((e) => e.duration));
  await page.mouse.up();
  if (times.length < MOVES / 4) throw new Error(`A spline’s point was moved ${MOVES} times; ${times.length} followed.`);
  await d.stage('Recolour');
  return times.sort((a, b) => a - b);
}
