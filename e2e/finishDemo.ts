// The whole film, as a colorist does it: every piece isolated and tracked in every shot, matched in the shot where it
// is seen best, the lights taken, the line-up solved, in all colourways. What comes of it is what the demo opens with.
import { expect, test, type Page } from '@playwright/test';
import { ProjectDocument, RunResult } from '../packages/contract/src/index.ts';
import { keepFinished } from '../demo/finished.ts';
import { Driver } from './driving.ts';
import { JOBS, makeTracked } from './jobs.ts';
import { followLantern, outlineLantern } from './lantern.ts';
import { startServer } from './server.ts';

/** Which way each piece is matched, and in which shot. */
const MATCHED: [piece: string, shot: string, way: 'Match' | 'Repaint'][] = [
  ['Lark suitcase', '1 Platform', 'Repaint'],
  ['Scarf', '1 Platform', 'Match'],
  ['Scooter', '3 Street', 'Match'],
  ['Lantern', '5 Gate', 'Match'],
];
/** How far the colorist says each sighting is. */
const STATES: [piece: string, shot: string, state: string][] = [
  ['Lark suitcase', '1 Platform', 'approved'],
  ['Lark suitcase', '2 Café', 'ready'],
  ['Lark suitcase', '4 Turn', 'approved'],
  ['Scarf', '1 Platform', 'approved'],
  ['Scarf', '5 Gate', 'approved'],
  ['Scooter', '3 Street', 'ready'],
  ['Lantern', '5 Gate', 'ready'],
];
/** Trims of one piece, where there is something left to trim. */
async function solve(d: Driver, page: Page, piece: string): Promise<void> {
  const row = page.getByRole('row', { name: new RegExp(`^${piece}`) });
  await row.getByRole('button', { name: 'Solve trims' }).click();
  await d.step(/^Solve the trims/, () => row.getByRole('button', { name: 'Apply trims' }).click());
}

test('the film is done', async ({ page }) => {
  const server = await startServer();
  const d = new Driver(page, server);
  await d.open();
  await d.stage('Isolate');
  for (const job of JOBS) await makeTracked(d, page, job);
  await outlineLantern(d);
  await followLantern(d, page);
  for (const way of ['Retail', 'Plum', 'Fern']) {
    await d.stage('Recolour');
    await d.colourway(way);
    for (const [piece, shot, by] of MATCHED) {
      await d.piece(piece);
      await d.shot(shot);
      await d.step(/^(Match|Repaint) of/, () => page.getByRole('button', { name: by, exact: true }).click());
      await expect(page.getByText(/^(Reached|Within tolerance|Not reachable)/)).toBeVisible();
    }
    await d.stage('Line-up');
    if (way === 'Retail') {
      const row = page.getByRole('row', { name: /^Lark suitcase/ });
      await row.getByRole('button', { name: 'Take lights' }).click();
      await d.step(/^Take the shots’ lights/, () => page.getByRole('button', { name: 'It is', exact: true }).click());
    }
    for (const [piece] of MATCHED) await solve(d, page, piece);
  }
  const details = page.getByRole('complementary', { name: 'Sighting in hand' });
  for (const [piece, shot, state] of STATES) {
    await page.locator(`[data-cell="${piece} ${shot}"]`).getByRole('button').click();
    await d.step(`${piece} in ${shot}: ${state}`, () => details.getByText(state).click());
  }
  const document = ProjectDocument.parse(await d.document());
  keepFinished(document, RunResult.array().parse(await d.json('/tracks')));
  await server.close();
});
