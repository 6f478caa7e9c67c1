// An installation is backed up while it is in use, destroyed, restored on an empty machine, and goes on where it was.
import { expect, test, type Page } from '@playwright/test';
import { ownFolder } from './ownFolder.ts';
import { startServer } from './server.ts';

const work = ownFolder();

async function addPiece(page: Page, name: string): Promise<void> {
  await page.keyboard.press('n');
  await page.getByRole('textbox', { name: 'Piece name' }).fill(name);
  await page.keyboard.press('Enter');
}
const chip = (page: Page, name: string) => page.locator('.topbar').getByText(name, { exact: true });
async function openFilm(page: Page, url: string): Promise<void> {
  await page.goto(url);
  await page.getByRole('link', { name: /^Slow Morning$/ }).click();
  await page.locator('.viewport canvas[role="img"]').waitFor();
}

test('backed up, destroyed, restored, gone on with', async ({ page }) => {
  const backup = work('backup');
  await test.step('it is backed up while somebody works', async () => {
    const first = await startServer();
    try {
      await openFilm(page, first.url);
      await addPiece(page, 'Lamp');
      await expect(page.getByText('saved', { exact: true })).toBeVisible();
      const backingUp = first.backUp(backup);
      await addPiece(page, 'Vase');
      await expect(chip(page, 'Vase')).toBeVisible();
      await backingUp;
    } finally {
      // its database and media are gone
      await first.close();
    }
  });
  const second = await startServer({}, { backup });
  try {
    await test.step('on an empty machine it is as it was', async () => {
      await openFilm(page, second.url);
      await expect(chip(page, 'Lamp')).toBeVisible();
      await expect(page.getByRole('img', { name: /^1 Platform, frame 0/ })).toBeVisible();
    });
    await test.step('and goes on: undo reaches back, an edit is kept, what waited is computed', async () => {
      if ((await chip(page, 'Vase').count()) > 0) await page.getByRole('button', { name: /^Undo/ }).click();
      await page.getByRole('button', { name: /^Undo/ }).click();
      await expect(chip(page, 'Lamp')).toHaveCount(0);
      await addPiece(page, 'Hat');
      await expect(page.getByText('saved', { exact: true })).toBeVisible();
      await page.reload();
      await expect(chip(page, 'Hat')).toBeVisible();
      await second.rest();
    });
  } finally {
    await second.close();
  }
});
