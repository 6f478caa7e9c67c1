// The demo's job by the keyboard alone, and by the mouse alone as a first-time user does it.
import { gzipSync } from 'node:zlib';
import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Locator, type Page } from '@playwright/test';
import { Driver, type Place } from './driving.ts';
import { startServer, type TestServer } from './server.ts';

test.describe.configure({ mode: 'serial' });
let server: TestServer;
test.beforeAll(async () => void (server = await startServer()));
test.afterAll(() => server.close());

const PROJECT = /^Slow Morning, from the start/;
const PICK: [Place, Place] = [
  [340, 420],
  [420, 520],
];
const ROUND: [Place, Place] = [
  [190, 230],
  [570, 705],
];

/** Goes with Tab to a control, at most once round the page. */
async function tabTo(page: Page, control: Locator): Promise<void> {
  await control.waitFor();
  for (let i = 0; i < 90; i++) {
    if (await control.evaluate((e) => e === document.activeElement || e.contains(document.activeElement))) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`no Tab leads to ${String(control)}`);
}
/** Gives a command by the list of commands. */
async function command(page: Page, name: string): Promise<void> {
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('combobox', { name: 'Find a command' })).toBeFocused();
  await page.keyboard.type(name);
  await expect(page.locator('[cmdk-item][data-selected="true"]')).toContainText(name);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toHaveCount(0);
}
async function times(page: Page, key: string, count: number): Promise<void> {
  for (let i = 0; i < count; i++) await page.keyboard.press(key);
}
/** Draws with the arrows and Space on the picture, which has the focus. */
class KeyHand {
  #at: Place;
  readonly #page: Page;
  readonly #d: Driver;
  constructor(page: Page, d: Driver, middle: Place) {
    this.#page = page;
    this.#d = d;
    this.#at = middle;
  }
  async to(place: Place): Promise<void> {
    const [x, y] = (await this.#d.onScreen(...place)).map(Math.round) as Place;
    for (const [by, back, on] of [
      [x - this.#at[0], 'ArrowLeft', 'ArrowRight'],
      [y - this.#at[1], 'ArrowUp', 'ArrowDown'],
    ] as const) {
      const key = by < 0 ? back : on;
      const far = Math.round(Math.abs(by));
      await times(this.#page, `Shift+${key}`, Math.floor(far / 40));
      await times(this.#page, key, Math.floor((far % 40) / 8));
      await times(this.#page, `Alt+${key}`, far % 8);
    }
    this.#at = [x, y];
  }
  async drag(from: Place, to: Place): Promise<void> {
    await this.to(from);
    await this.#page.keyboard.press('Space');
    await this.to(to);
    await this.#page.keyboard.press('Space');
  }
}
async function clean(page: Page, where: string): Promise<void> {
  await page.waitForLoadState('networkidle');
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag22aa']).analyze();
  expect(violations.map((v) => `${where}: ${v.id} ${v.nodes.map((n) => n.html).join(' ')}`.slice(0, 500))).toEqual([]);
}

test('the suitcase by the keyboard alone, from the list of projects to a file', async ({ page }) => {
  const d = new Driver(page, server);
  // a hand that touched the mouse would be found out
  await page.addInitScript(() => {
    for (const event of ['mousedown', 'wheel'])
      addEventListener(event, () => document.documentElement.setAttribute('data-mouse', event), true);
  });
  await page.goto(server.url);
  await tabTo(page, page.getByRole('link', { name: PROJECT }));
  await page.keyboard.press('Enter');
  // pressed while there is a picture and nothing round it yet: done when there is
  await page.locator('.first-picture').waitFor();
  await page.keyboard.press('3');
  await d.shown();
  await expect(page.locator('.viewport canvas[role="img"]')).toHaveAttribute('data-view', 'Matte');
  await page.keyboard.press('1');

  await test.step('isolate: a pick and a loose rectangle, drawn with arrows and Space', async () => {
    await page.keyboard.press('Shift+1');
    await expect(page.getByRole('radio', { name: /^Lark suitcase: / })).toBeChecked();
    const picture = page.locator('.viewport canvas[role="img"]');
    await tabTo(page, picture);
    const box = (await picture.boundingBox())!;
    const middle: Place = [box.x + box.width / 2, box.y + box.height / 2];
    await page.keyboard.press('a');
    await d.step(/Pick a colour/, () => new KeyHand(page, d, middle).drag(...PICK));
    await page.keyboard.press('r');
    await d.step(/^Draw Rectangle 1/, () => new KeyHand(page, d, middle).drag(...ROUND));
    // the hand that has drawn adjusts: arrows nudge, and Ctrl-Z takes it back
    await d.step(/Rectangle 1/, () => page.keyboard.press('Shift+ArrowRight'));
    await page.keyboard.press('Control+z');
    await d.saved();
    await tabTo(page, page.getByRole('toolbar', { name: 'Layers' }));
    await page.keyboard.press('Home');
    await expect(page.getByRole('button', { name: 'Drag Range key 1 to another place' })).toBeFocused();
    await page.keyboard.press('ArrowRight');
    await expect(page.getByRole('switch', { name: 'Range key 1 on' })).toBeFocused();
  });

  await test.step('a number is typed with arithmetic, and Enter gives the keys back to the picture', async () => {
    await command(page, 'Go to Recolour');
    const hue = page.getByRole('spinbutton', { name: 'Hue', exact: true });
    await tabTo(page, hue);
    await page.keyboard.press('Control+a');
    await d.step(/^Hue/, async () => {
      await page.keyboard.type('10*2');
      await page.keyboard.press('Enter');
    });
    await expect(hue).toHaveValue('20.0');
    await page.keyboard.press('2');
    await expect(page.locator('.viewport canvas[role="img"]')).toHaveAttribute('data-view', 'Source');
    await page.keyboard.press('1');
    await d.step('Reset the recolour of Lark suitcase', async () => {
      await tabTo(page, page.getByRole('button', { name: 'Reset', exact: true }));
      await page.keyboard.press('Enter');
    });
  });

  await test.step('match, line up, render', async () => {
    await tabTo(page, page.getByRole('button', { name: 'Match', exact: true }));
    await d.step(/^Match of Lark suitcase/, () => page.keyboard.press('Enter'));
    await command(page, 'Go to Line-up');
    await d.measured();
    await expect(page.locator('[data-cell="Lark suitcase 1 Platform"]')).toContainText(/✓ ΔE \d/);
    await command(page, 'Go to Deliver');
    await tabTo(page, page.getByRole('button', { name: 'Render 1 shot' }));
    await page.keyboard.press('Enter');
    await d.rendered(1);
  });

  await test.step('a key is changed, refused where it clashes, and kept', async () => {
    await command(page, 'Go to Recolour');
    await d.shown();
    await page.keyboard.press('Shift+Slash');
    const keyOfWipe = page.getByRole('button', { name: 'Key of Wipe' });
    await tabTo(page, keyOfWipe);
    await page.keyboard.press('Enter');
    await page.keyboard.press('q');
    await expect(page.getByRole('dialog').getByRole('status')).toContainText('Source while held');
    await page.keyboard.press('z');
    await expect(keyOfWipe).toHaveText('Z');
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toHaveCount(0);
    await page.keyboard.press('z');
    await expect(page.getByRole('button', { name: 'Compare' })).toHaveText(/^wipe/);
    await page.reload();
    await d.shown();
    await page.keyboard.press('z');
    await expect(page.getByRole('button', { name: 'Compare' })).toHaveText('');
  });

  await test.step('no accessibility violation on any screen, in any room', async () => {
    for (const room of ['Mid room', 'Bright room']) {
      await command(page, room);
      for (const stage of ['Shots', 'Isolate', 'Recolour', 'Line-up', 'Deliver']) {
        await command(page, `Go to ${stage}`);
        await clean(page, `${room}, ${stage}`);
      }
    }
    await command(page, 'Go to all projects');
    await clean(page, 'projects');
  });
  expect(await page.locator('html').getAttribute('data-mouse')).toBeNull();
});

test('a first-time user, by the mouse alone: the demo’s suitcase rendered in at most 25 actions', async ({ page }) => {
  const d = new Driver(page, server);
  await page.addInitScript(() =>
    addEventListener('keydown', () => document.documentElement.setAttribute('data-keys', 'pressed'), true),
  );
  // what a browser loads on its way to the first picture, as it would travel compressed
  const loaded = new Map<string, number>();
  page.on('response', async (response) => {
    const type = response.request().resourceType();
    if (type !== 'script' && type !== 'stylesheet' && type !== 'document') return;
    const body = await response.body().catch(() => undefined);
    if (body) loaded.set(response.url(), gzipSync(body).length);
  });
  let actions = 0;
  const act = async (does: Promise<unknown>) => {
    actions++;
    await does;
  };
  await act(page.goto(server.url));
  await act(page.getByRole('link', { name: PROJECT }).click());
  await d.shown();
  const before = await page.evaluate(() => {
    const [seen] = performance.getEntriesByName('mellow:first-picture');
    const asked = performance.getEntriesByType('resource').filter((r) => r.startTime < seen!.startTime);
    return [...new Set([location.origin + '/', ...asked.map((r) => r.name)])];
  });
  const bytes = before.reduce((sum, url) => sum + (loaded.get(url) ?? 0), 0);
  console.log(`${(bytes / 1000).toFixed(0)} kB compressed before the first picture`);
  expect(before.some((url) => url.includes('/frame.worker'))).toBe(true);
  expect(bytes).toBeLessThanOrEqual(400_000);

  // the five steps lead there
  await act(page.getByRole('button', { name: 'Show me' }).click());
  const tour = page.locator('.ant-tour').filter({ hasText: 'Pick' });
  await expect(tour).toBeVisible();
  await act(page.getByRole('radio', { name: /^Scarf: / }).click());
  const pick = page.getByRole('button', { name: 'Pick a colour to add' });
  await act(pick.click());
  await act(d.pick([690, 170], [780, 260]));
  await act(page.getByRole('button', { name: 'Next' }).click());
  await act(page.getByRole('button', { name: 'Rectangle', exact: true }).click());
  await act(d.pick([615, 95], [850, 385]));
  await act(page.getByRole('button', { name: 'Next' }).click());
  await act(d.step(/^Match of Scarf/, () => page.getByRole('button', { name: 'Match', exact: true }).click()));
  await act(page.getByRole('button', { name: 'Next' }).click());
  await d.measured();
  await expect(page.locator('[data-cell="Scarf 1 Platform"]')).toContainText(/ΔE \d/);
  await act(page.getByRole('button', { name: 'Next' }).click());
  const rendered = page.getByRole('link', { name: /^Download/ });
  const were = (await d.json<unknown[]>('/deliveries')).length;
  await act(page.getByRole('button', { name: /^Render 1 shot/ }).click());
  await act(page.getByRole('button', { name: 'Finish' }).click());
  await d.rendered(were + 1);
  await act(Promise.all([page.waitForEvent('download'), rendered.first().click()]));
  console.log(`${actions} actions from nothing to a file`);
  expect(actions).toBeLessThanOrEqual(25);

  await test.step('it is offered once only; menus under the other button', async () => {
    await d.stage('Isolate');
    await d.shown();
    await expect(page.getByRole('button', { name: 'Show me' })).toHaveCount(0);
    await page.getByRole('button', { name: /^2 Café/ }).click({ button: 'right', position: { x: 12, y: 8 } });
    await d.step('Move 2 Café', () => page.getByRole('menuitem', { name: 'Move it one earlier' }).click());
    await page.getByRole('button', { name: 'Undo' }).click();
    await d.saved();
    await page.getByRole('radio', { name: /^Scarf: / }).click({ button: 'right' });
    await d.step('Duplicate the piece Scarf', () =>
      page.getByRole('menuitem', { name: 'Duplicate with its mattes and recipes' }).click(),
    );
    // a fifth chip has no room: the one in hand is scrolled into view, the others are in the menu too
    await expect(page.getByRole('radio', { name: /^Scarf copy: / })).toBeInViewport({ ratio: 0.9 });
    await page.getByRole('button', { name: 'All pieces' }).click();
    await page.getByRole('menuitem').filter({ hasText: 'Lark suitcase' }).click();
    await expect(page.getByRole('radio', { name: /^Lark suitcase: / })).toBeInViewport({ ratio: 0.9 });
    await page.locator('.viewport').click({ button: 'right', position: { x: 300, y: 200 } });
    await page.getByRole('menuitem', { name: /^Matte/ }).click();
    await expect(page.locator('.viewport canvas[role="img"]')).toHaveAttribute('data-view', 'Matte');
  });
  expect(await page.locator('html').getAttribute('data-keys')).toBeNull();
});
