// People on one project: they come in by invitations, see each other's edits and where they are, note, approve, take
// back their own steps, and one of them may only look.
import { expect, test, type Browser, type Page } from '@playwright/test';
import { ownFolder } from './ownFolder.ts';
import { startServer, type TestServer } from './server.ts';

test.describe.configure({ mode: 'serial' });
let server: TestServer;
const secrets = ownFolder();
test.beforeAll(async () => {
  server = await startServer({ MELLOW_SIGN_IN: 'on', MELLOW_SECRET_FILE: secrets('secret') });
});
test.afterAll(async () => {
  await server.close();
});

const PASSWORD = 'marigold over the café';
const FILM = /^Slow Morning$/;

/** Somebody new, in a browser of their own. */
async function comeIn(browser: Browser, path: string): Promise<Page> {
  const page = await (await browser.newContext()).newPage();
  await page.goto(server.url + path);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Come in' }).click();
  await page.getByRole('button', { name: /^Account of/ }).waitFor();
  return page;
}
/** Somebody the admin makes an account for; the path of the link that they are given. */
async function invited(page: Page, name: string, login: string, kind: 'Member' | 'Guest'): Promise<string> {
  await page.getByRole('textbox', { name: 'Name of somebody new' }).fill(name);
  await page.getByRole('textbox', { name: 'E-mail address or short name' }).fill(login);
  if (kind !== 'Guest') {
    await page.getByRole('combobox', { name: 'What somebody new is' }).click();
    await page.getByTitle('Makes projects').last().click();
  }
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  const link = page.getByLabel(`Invitation of ${name}`);
  return new URL(await link.innerText()).pathname;
}
async function give(page: Page, name: string, role: string): Promise<void> {
  const dialog = page.getByRole('dialog', { name: 'People of Slow Morning' });
  await dialog.getByRole('combobox', { name: 'Somebody to add' }).fill(name);
  await page.keyboard.press('Enter');
  await dialog.getByRole('combobox', { name: 'As what' }).click();
  await page.locator('.ant-select-item-option').filter({ hasText: role }).last().click();
  await dialog.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(dialog.getByText(name)).toBeVisible();
}
async function openFilm(page: Page): Promise<void> {
  await page.getByRole('link', { name: FILM }).click();
  await page.locator('.viewport canvas[role="img"]').waitFor();
  await page.getByRole('button', { name: /^Account of/ }).waitFor();
}
async function addPiece(page: Page, name: string): Promise<void> {
  await page.keyboard.press('n');
  await page.getByRole('textbox', { name: 'Piece name' }).fill(name);
  await page.keyboard.press('Enter');
}
const chip = (page: Page, name: string) => page.locator('.topbar').getByText(name, { exact: true });

test('four people on one film', async ({ browser }) => {
  const stranger = await (await browser.newContext()).newPage();
  await test.step('nobody comes in without an account', async () => {
    await stranger.goto(`${server.url}/`);
    await stranger.getByLabel('Name or e-mail address').fill('anna');
    await stranger.getByLabel('Password').fill('a guess or two');
    await stranger.getByRole('button', { name: 'Sign in', exact: true }).click();
    await expect(stranger.getByRole('alert')).toContainText('do not go together');
    await expect(stranger.getByRole('link', { name: FILM })).toHaveCount(0);
  });

  const anna = await comeIn(browser, await server.invite('anna', 'Anna Bell', 'admin'));
  const links: Record<string, string> = {};
  await test.step('the admin makes accounts, and gives them roles in the film', async () => {
    await anna.getByRole('button', { name: 'Account of Anna Bell' }).click();
    await anna.getByText('Accounts …').click();
    links.ben = await invited(anna, 'Ben Moss', 'ben@house.example', 'Member');
    links.rea = await invited(anna, 'Rea Lind', 'rea', 'Guest');
    links.vic = await invited(anna, 'Vic Holm', 'vic', 'Guest');
    await anna.getByRole('button', { name: 'Close' }).click();
    await anna.getByRole('button', { name: 'More of Slow Morning', exact: true }).click();
    await anna.getByRole('menuitem', { name: 'People …' }).click();
    await give(anna, 'Ben Moss', 'Editor');
    await give(anna, 'Rea Lind', 'Reviewer');
    await give(anna, 'Vic Holm', 'Viewer');
    await anna.getByRole('button', { name: 'Close' }).click();
  });

  const ben = await comeIn(browser, links.ben!);
  await test.step('an invitation is good once', async () => {
    await stranger.goto(server.url + links.ben!);
    await expect(stranger.getByText('has been used')).toBeVisible();
  });
  await test.step('each sees who else is there, and at which shot', async () => {
    // only what one was given is listed
    await expect(ben.getByRole('article')).toHaveCount(1);
    await openFilm(anna);
    await openFilm(ben);
    await expect(anna.getByLabel('Ben Moss is at 1 Platform')).toBeVisible();
    await ben
      .getByRole('button', { name: /3 Street/ })
      .first()
      .click();
    await expect(anna.getByLabel('Ben Moss is at 3 Street')).toBeVisible();
    await expect(ben.getByLabel('Anna Bell is at 1 Platform')).toBeVisible();
  });
  await test.step('edits are seen by the other, and undo takes back one’s own', async () => {
    await addPiece(ben, 'Lamp');
    await expect(chip(anna, 'Lamp')).toBeVisible();
    await addPiece(anna, 'Vase');
    await expect(chip(ben, 'Vase')).toBeVisible();
    await ben.getByRole('button', { name: /^Undo/ }).click();
    await expect(chip(ben, 'Lamp')).toHaveCount(0);
    await expect(chip(anna, 'Lamp')).toHaveCount(0);
    await expect(chip(anna, 'Vase')).toBeVisible();
  });
  await test.step('what was done while one was away is there when one comes back', async () => {
    await ben.getByRole('link', { name: 'All projects' }).click();
    await expect(anna.getByLabel(/^Ben Moss is at/)).toHaveCount(0);
    await addPiece(anna, 'Bowl');
    await expect(chip(anna, 'Bowl')).toBeVisible();
    await openFilm(ben);
    await expect(chip(ben, 'Bowl')).toBeVisible();
    await anna.getByRole('button', { name: /^Undo/ }).click();
    await expect(chip(ben, 'Bowl')).toHaveCount(0);
  });

  const rea = await comeIn(browser, links.rea!);
  await test.step('a reviewer notes and approves, and changes nothing else', async () => {
    await openFilm(rea);
    await expect(rea.locator('.topbar').getByText('Reviewer')).toBeVisible();
    await rea.locator('.viewport canvas[role="img"]').click({ button: 'right' });
    await rea.getByRole('menuitem', { name: 'Note here' }).click();
    await rea.getByRole('textbox', { name: 'Note' }).fill('A touch less red');
    await rea.getByRole('button', { name: 'Add', exact: true }).click();
    await expect(anna.getByRole('button', { name: /1 Platform/ }).first()).toContainText('1 note');
    await rea.getByRole('link', { name: 'Line-up' }).click();
    await rea.getByRole('button', { name: /^Lark suitcase in 2 Café/ }).click();
    await rea.getByRole('complementary', { name: 'Sighting in hand' }).getByText('approved').click();
    await anna.keyboard.press('Shift+1');
    await expect(anna.getByRole('button', { name: /2 Café/ }).first()).toContainText('approved');
    await addPiece(rea, 'Hat');
    await expect(rea.getByText('You are a reviewer of this project')).toBeVisible();
    await expect(chip(rea, 'Hat')).toHaveCount(0);
  });

  const vic = await comeIn(browser, links.vic!);
  await test.step('a viewer looks, and cannot edit', async () => {
    await openFilm(vic);
    await expect(vic.locator('.topbar').getByText('Viewer')).toBeVisible();
    await addPiece(vic, 'Hat');
    await expect(vic.getByText('You may look at this project, not change it.')).toBeVisible();
    await expect(chip(vic, 'Hat')).toHaveCount(0);
  });
  await test.step('who signs out is out, and comes in again where they were', async () => {
    const at = ben.url();
    await ben.getByRole('button', { name: 'Account of Ben Moss' }).click();
    await ben.getByText('Sign out').click();
    await ben.getByLabel('Name or e-mail address').waitFor();
    await ben.goto(at);
    await ben.getByLabel('Name or e-mail address').fill('BEN@house.example');
    await ben.getByLabel('Password').fill(PASSWORD);
    await ben.getByRole('button', { name: 'Sign in', exact: true }).click();
    await ben.locator('.viewport canvas[role="img"]').waitFor();
    expect(ben.url()).toBe(at);
  });
});
