// From the demo's mattes to the files: the required colour from a measured swatch, matched in the reference shot,
// carried through the lights of the others, trimmed, judged, rendered and read back; a pale thing made dark and a dark
// one light.
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Locator, type Page } from '@playwright/test';
import {
  ciede2000,
  clippingOf,
  frameMatte,
  makeTables,
  measurePiece,
  shotColour,
  sourceFrame,
  type Finer,
  type Lab,
} from '../packages/core/src/index.ts';
import { Driver, H, TO_RGB, W } from './driving.ts';
import { readGbr16 } from './reading.ts';
import { startServer, type TestServer } from './server.ts';
import { ownFolder } from './ownFolder.ts';
import { stackOf } from './tracking.ts';

const demo = join(import.meta.dirname, '../demo');
let server: TestServer;
const work = ownFolder();
test.beforeAll(async () => void (server = await startServer()));
test.afterAll(async () => {
  await server.close();
});

const DONE = /^Slow Morning(?!,)/;
/** Measured anew (no …), and within ΔE00 0.5. */
const LANDED = /✓ ΔE 0\.[0-4]\d(?! …)/;
const SUITCASES = ['1 Platform', '2 Café', '4 Turn'];
const FILES: Record<string, string> = {
  '1 Platform': 'shot-1-platform',
  '2 Café': 'shot-2-cafe',
  '3 Street': 'shot-3-street',
  '4 Turn': 'shot-4-turn',
  '5 Gate': 'shot-5-gate',
};
const cell = (page: Page, piece: string, shot: string) => page.locator(`[data-cell="${piece} ${shot}"]`);
const row = (page: Page, piece: string) => page.getByRole('row', { name: piece });

interface Measured {
  sightingId: string;
  colourwayId: string;
  fresh: boolean;
  frames: { frame: number; after: { meanLinear: [number, number, number] } }[];
}
/** Every so many frames are read back. */
const STEP = 24;
const READ = 2;
/**
 * A piece's colour in a rendered file and as the line-up says, both over the same frames, by the stored matte on the
 * source.
 */
async function fileAndLineup(d: Driver, rendered: string, piece: string, shot: string, colourwayName: string) {
  const stackAt = await stackOf(d, piece, shot);
  const own = (await d.sighting(piece, shot))!;
  const { colourways } = await d.json<{ colourways: { value: { id: string; name: string } }[] }>('');
  const colourwayId = colourways.find((c) => c.value.name === colourwayName)!.value.id;
  const said = (await d.json<Measured[]>('/measurements')).find(
    (m) => m.sightingId === own.id && m.colourwayId === colourwayId,
  )!;
  const every = `select=not(mod(n\\,${STEP}))`;
  const before = readGbr16(join(demo, `media/${FILES[shot]}.mp4`), W, H, `${every},${TO_RGB}`, READ);
  const after = readGbr16(rendered, W, H, every, READ);
  const tables = makeTables();
  const picture = ([g, b, r]: Uint16Array[]) =>
    sourceFrame({ width: W, height: H, r: r!, g: g!, b: b! }, 'rec709', 1, tables);
  const means: { meanLinear: [number, number, number] }[] = [];
  const seen = new Set<number>();
  for (let k = 0; k < before.length; k++) {
    const [was, now] = [picture(before[k]!), picture(after[k]!)];
    const { layers, cleanUp } = stackAt(k * STEP);
    const measured = measurePiece(now.linear(), frameMatte(was, layers, cleanUp), clippingOf(was.codes));
    if (measured && said.frames.some((f) => f.frame === k * STEP)) {
      means.push(measured);
      seen.add(k * STEP);
    }
  }
  const ofFile: Lab = shotColour(means)!;
  const ofLineup = shotColour(said.frames.filter((f) => seen.has(f.frame)).map((f) => f.after))!;
  return ciede2000(ofFile, ofLineup);
}

test('a swatch file, a match, the lights, the trims, and shots whose files say the same', async ({ page }) => {
  const errors: string[] = [];
  page.on('pageerror', (e) => errors.push(e.message));
  const d = new Driver(page, server);
  await d.open(DONE);
  const suitcase = row(page, 'Lark suitcase');

  await test.step('begin with the mattes: no recipe, no lights, no trims', async () => {
    await d.stage('Recolour');
    await d.piece('Lark suitcase');
    await d.shot('1 Platform');
    await d.step('Reset the recolour of Lark suitcase', () =>
      page.getByRole('button', { name: 'Reset', exact: true }).click(),
    );
    await d.stage('Line-up');
    await d.step('No trims of Lark suitcase', () => suitcase.getByRole('button', { name: 'No trims' }).click());
    for (const shot of ['2 Café', '4 Turn']) {
      await d.step(`No light of its own for ${shot}`, () => d.menu(`More of ${shot}`, 'No light of its own'));
      await expect(page.getByRole('columnheader', { name: shot })).toContainText('light not taken');
    }
  });

  await test.step('read the colour from a measured swatch and match it in the reference shot', async () => {
    await d.stage('Recolour');
    await page.getByRole('button', { name: 'Change', exact: true }).click();
    await page.locator('.panel input[type="file"]').setInputFiles(join(demo, 'swatches/tarn-and-thistle.txt'));
    await page.getByRole('combobox', { name: 'Sample' }).click();
    await page.locator('.ant-select-item').filter({ hasText: 'Marigold' }).click();
    await page.getByRole('button', { name: 'Save requirement' }).click();
    await page.getByRole('button', { name: 'Match', exact: true }).click();
    await expect(page.getByText(/^(Reached|Within tolerance): L /)).toBeVisible();
    await d.saved();
  });

  await test.step('take the lights, solve the row: every sighting lands within ΔE00 0.5', async () => {
    await d.stage('Line-up');
    await suitcase.getByRole('button', { name: 'Take lights' }).click();
    await page.getByRole('button', { name: 'It is', exact: true }).click();
    await expect(page.getByRole('columnheader', { name: '2 Café' })).toContainText(/warmer, 0\.\d stops darker/);
    // before any trim the probe alone brings the true colours together
    await d.measured();
    await expect(suitcase).toContainText(/between shots ΔE ([01]\.\d\d|2\.[0-4])/);
    await suitcase.getByRole('button', { name: 'Solve trims' }).click();
    await d.step('Solve the trims of Lark suitcase', () =>
      suitcase.getByRole('button', { name: 'Apply trims' }).click(),
    );
    await d.measured();
    for (const shot of SUITCASES) await expect(cell(page, 'Lark suitcase', shot)).toContainText(LANDED);
    await expect(suitcase).toContainText(/between shots ΔE 0\.[0-4]\d/);
  });

  await test.step('the light by other ways: a neutral and patches picked in both shots, by hand', async () => {
    await d.stage('Recolour');
    await d.shown();
    await d.shot('2 Café');
    await d.shown();
    const card = page.getByRole('group', { name: 'Light' });
    await card.locator('summary').first().click();
    await card.getByRole('button', { name: 'Neutral', exact: true }).click();
    await expect(card.getByRole('status')).toHaveText('Pick a neutral in both shots, under the same letter.');
    await card.getByRole('button', { name: 'Pick a neutral' }).click();
    await d.step('Pick patch A in 2 Café', () => d.drag([540, 356], [556, 364]));
    await d.shot('1 Platform');
    await d.shown();
    await page.getByRole('button', { name: 'Pick a neutral' }).click();
    await d.step('Pick patch A in 1 Platform', () => d.drag([200, 560], [230, 580]));
    await d.shot('2 Café');
    await d.step('Take the light of 2 Café', () => card.getByRole('button', { name: 'Neutral', exact: true }).click());
    await expect(card).toContainText('from a neutral');
    await card.getByRole('button', { name: 'Patches', exact: true }).click();
    await expect(card.getByRole('status')).toContainText('Three patches are needed');
    for (let undone = 0; undone < 3; undone++) {
      await page.getByRole('button', { name: 'Undo' }).click();
      await d.saved();
    }
    await expect(card).toContainText('from the piece’s old colour');
    await d.stage('Line-up');
  });

  await test.step('plum: one click turns the project; one shot is trimmed alone', async () => {
    await d.colourway('Plum');
    await cell(page, 'Lark suitcase', '2 Café').getByRole('button').click();
    const details = page.getByRole('complementary', { name: 'Sighting in hand' });
    await details.getByRole('button', { name: 'Solve here' }).click();
    await d.step('Solve the trims of Lark suitcase', () =>
      suitcase.getByRole('button', { name: 'Apply trims' }).click(),
    );
    await d.measured();
    await expect(cell(page, 'Lark suitcase', '2 Café')).toContainText(LANDED);
    await d.step('Lark suitcase in 2 Café: approved', () => details.getByText('approved').click());
  });

  await test.step('keep a version and a still, and wipe against them', async () => {
    await d.stage('Recolour');
    await page.getByRole('group', { name: 'Kept' }).locator('summary').click();
    await page.getByRole('textbox', { name: 'Name of the version' }).fill('As sent');
    await d.step('Keep As sent of Lark suitcase', () => page.getByRole('button', { name: 'Keep version' }).click());
    await d.step('Keep the still 2 Café, frame 0', () => page.getByRole('button', { name: 'Keep still' }).click());
    await page.getByRole('spinbutton', { name: 'Hue', exact: true }).fill('90');
    await page.getByRole('spinbutton', { name: 'Hue', exact: true }).press('Enter');
    await d.saved();
    await page.getByRole('button', { name: 'Hue bands', exact: true }).click();
    await d.step('Bands: hue at 210° of Lark suitcase', () =>
      page.getByRole('slider', { name: 'Bands: hue: 210' }).press('Shift+ArrowUp'),
    );
    await expect(page.getByRole('spinbutton', { name: 'Bands hue', exact: true })).toHaveValue('6.0');
    await expect(page.getByRole('switch', { name: 'Hue bands on' })).toBeChecked();
    await page.getByRole('button', { name: 'Hue bands at work' }).click();
    await page.getByRole('button', { name: 'Compare' }).click();
    await page.getByRole('menuitem', { name: 'Still: 2 Café, frame 0' }).click();
    await expect(page.getByRole('button', { name: 'Compare' })).toHaveText('wipe: Still: 2 Café, frame 0');
    await page.keyboard.press('Escape');
    await d.step('Take As sent', () => d.menu('More of As sent', 'Take it'));
    await expect(page.getByRole('spinbutton', { name: 'Hue', exact: true })).toHaveValue('0.0');
    await page.keyboard.press('w');
    await page.getByRole('button', { name: 'Gallery of colourways' }).click();
    await expect(page.getByRole('dialog').getByRole('button', { name: /Retail/ })).toContainText(/ΔE \d/);
    await page.keyboard.press('Escape');
  });

  await test.step('no accessibility violation in the line-up, with scopes and finer tools', async () => {
    await page.keyboard.press('y');
    await expect(page.locator('canvas[data-scope="vectorscope"]')).toBeVisible();
    for (const name of ['Hue bands', 'Channel curves', 'Outside']) {
      await page.getByRole('button', { name, exact: true }).click();
      await expect(page.getByRole('switch', { name: `${name} on` })).toBeVisible();
      await clean(page);
    }
    await d.stage('Line-up');
    await clean(page);
  });

  await test.step('render three shots and read them back: the line-up’s numbers are the files’', async () => {
    await d.colourway('Retail');
    await d.measured();
    await d.stage('Deliver');
    // until the stage is there, the line-up's own boxes have the same names
    await expect(page.getByRole('button', { name: 'Render 5 shots' })).toBeVisible();
    for (const shot of ['3 Street', '4 Turn']) await page.getByRole('checkbox', { name: shot }).uncheck();
    await page.getByRole('button', { name: 'Render 3 shots' }).click();
    await d.rendered(3);
    const deliveries = await d.json<{ id: string; shotName: string }[]>('/deliveries');
    for (const [piece, shot] of [
      ['Lark suitcase', '1 Platform'],
      ['Scarf', '1 Platform'],
      ['Lark suitcase', '2 Café'],
      ['Scarf', '5 Gate'],
      ['Lantern', '5 Gate'],
    ] as const) {
      const { id } = deliveries.find((x) => x.shotName === shot)!;
      const deltaE = await fileAndLineup(d, await d.download(id, work()), piece, shot, 'Retail');
      console.log(`${piece}, ${shot}: the file and the line-up are ΔE00 ${deltaE.toFixed(3)} apart`);
      expect(deltaE).toBeLessThan(0.2);
    }
  });
  expect(errors).toEqual([]);
});

async function clean(page: Page): Promise<void> {
  await page.waitForLoadState('networkidle');
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag22aa']).analyze();
  expect(violations.map((v) => `${v.id} ${v.nodes.map((n) => n.html).join(' ')}`.slice(0, 500))).toEqual([]);
}

test('the pale lantern becomes petrol, and a dark table foot light, with their own shading', async ({ page }) => {
  const d = new Driver(page, server);
  await d.open(DONE);
  const match = async () => {
    await page.getByRole('button', { name: 'Match', exact: true }).click();
    await expect(page.getByText(/^(Reached|Within tolerance): L /)).toBeVisible();
    await d.saved();
  };
  await d.stage('Recolour');
  await d.piece('Lantern');
  await d.shot('1 Platform');
  await expect(page.getByText('is not isolated in 1 Platform')).toBeVisible();
  // before anything that waits for its turn is drawn, the pointer comes over the panel: nothing moves under it any more
  const gate = await page.getByRole('button', { name: /^5 Gate/ }).elementHandle();
  const said = await page.evaluate(async (shot) => {
    (shot as HTMLElement).click();
    for (let turn = 0; turn < 20; turn++) await Promise.resolve();
    const panel = document.querySelector('.panel')!;
    const before = panel.textContent;
    panel.dispatchEvent(new PointerEvent('pointermove', { bubbles: true }));
    return [before, panel.textContent].map((text) => text.includes('is not isolated'));
  }, gate);
  expect(said).toEqual([true, false]);
  await d.step('Reset the recolour of Lantern', () => page.getByRole('button', { name: 'Reset', exact: true }).click());
  await match();

  await d.stage('Isolate');
  await d.shot('2 Café');
  await page.getByRole('button', { name: 'New piece' }).click();
  await page.getByRole('textbox', { name: 'Piece name' }).fill('Table foot');
  await d.step('Add the product Table foot', () => page.getByRole('button', { name: 'Add', exact: true }).click());
  await d.shown();
  await page.getByRole('button', { name: /^Rectangle/ }).click();
  await d.pick([1020, 624], [1110, 648]);
  await d.stage('Recolour');
  await page.getByRole('button', { name: 'Require a colour' }).click();
  await page.getByRole('textbox', { name: 'Requirement name' }).fill('Stone');
  await page.getByRole('textbox', { name: 'Hex' }).fill('#c9c2b2');
  await page.getByRole('textbox', { name: 'Hex' }).press('Enter');
  await d.step('Require Stone for Table foot', () => page.getByRole('button', { name: 'Save requirement' }).click());
  await match();
  await d.measured();
  await d.stage('Line-up');
  for (const [piece, shot] of [
    ['Lantern', '5 Gate'],
    ['Table foot', '2 Café'],
  ] as const)
    await expect(cell(page, piece, shot)).toContainText(/✓ ΔE 0\.\d\d/);

  // paint, not a veil: light and shade stand to each other as they did in the dark
  await d.stage('Deliver');
  for (const shot of ['1 Platform', '3 Street', '4 Turn', '5 Gate']) {
    const box = page.getByRole('checkbox', { name: shot });
    await expect(box).toBeChecked();
    await box.uncheck();
  }
  const known = (await d.json<{ id: string }[]>('/deliveries')).map((x) => x.id);
  await page.getByRole('button', { name: /^Render 1 shot/ }).click();
  await d.rendered(known.length + 1);
  const { id } = (await d.json<{ id: string }[]>('/deliveries')).find((x) => !known.includes(x.id))!;
  const [was] = readGbr16(join(demo, 'media/shot-2-cafe.mp4'), W, H, TO_RGB, 1);
  const [now] = readGbr16(await d.download(id, work()), W, H, undefined, 1);
  const shading = ([g]: Uint16Array[]) => {
    // by columns: grain is another thing
    const light = Array.from({ length: 80 }, (_, x) => {
      let sum = 0;
      for (let y = 626; y < 646; y++) sum += (g![y * W + 1025 + x]! / 65535) ** 2.4;
      return sum / 20;
    });
    const mean = light.reduce((a, b) => a + b) / light.length;
    return light.map((v) => Math.log(v / mean));
  };
  const [before, after] = [shading(was!), shading(now!)];
  const along = before.reduce((sum, v, i) => sum + v * after[i]!, 0);
  const [own, next] = [before, after].map((of) => Math.sqrt(of.reduce((sum, v) => sum + v * v, 0)));
  console.log(
    `table foot: shading alike by ${(along / own! / next!).toFixed(3)}, ${(next! / own!).toFixed(2)} of it kept`,
  );
  expect(along / own! / next!).toBeGreaterThan(0.8);
  expect(next! / own!).toBeGreaterThan(0.35);
});

test('a number is typed, a bend dragged, a floor marked, an edge fitted; drawings fit', async ({ page }) => {
  const d = new Driver(page, server);
  await d.open(DONE);
  await d.stage('Recolour');
  await d.piece('Lark suitcase');
  await d.shot('1 Platform');
  await d.shown();
  const bend = async () => {
    const { recipes } = await d.json<{ recipes: { value: { finer: Pick<Finer, 'bend'> } }[] }>('');
    return recipes.find((r) => r.value.finer.bend.on)!.value.finer.bend;
  };
  const hue = page.getByRole('spinbutton', { name: 'Hue', exact: true });
  await d.step(/^Hue/, () => d.number('Hue', '2+3'));
  await expect(hue).toHaveValue('5.0');
  // Enter gave the keys back: what is pressed now is no part of the number
  await page.keyboard.press('4');
  await expect(hue).toHaveValue('5.0');
  await hue.fill('99');
  await hue.press('Escape');
  await expect(hue).toHaveValue('5.0');
  await d.step(/^Hue/, async () => {
    await hue.fill('*3');
    await hue.press('=');
  });
  await expect(hue).toBeFocused();
  await expect(hue).toHaveValue('15.0');
  await page.getByText('Result', { exact: true }).click();
  await d.step(/^Hue/, () => d.number('Hue', '0'));
  // a number that has keyframes gets one here by being typed once more
  await d.step(/keyframe of Hue/, () =>
    page.getByRole('button', { name: 'Set a keyframe of Hue on this frame' }).click(),
  );
  await d.goTo(10);
  await d.step(/keyframe of Hue/, () => d.number('Hue', '0'));
  await expect(page.getByRole('button', { name: 'Take away the keyframe of Hue on this frame' })).toBeVisible();
  await d.goTo(0);

  const tool = page.getByRole('button', { name: /^Bend/ });
  await tool.click();
  await d.step('Add a handle to the bend', () =>
    page.getByRole('button', { name: 'Add a handle at the piece’s colour' }).click(),
  );
  const shown = page.getByRole('region', { name: 'Measured on this frame' });
  const before = await shown.innerText();
  // the tool's own numbers stand below; the swing is what is pulled at
  await page.locator('[data-grip="bend"]').scrollIntoViewIfNeeded();
  const grip = (await page.locator('[data-grip="bend"]').boundingBox())!;
  await d.step(/Bend/, async () => {
    await page.mouse.move(grip.x + 6, grip.y + 6);
    await page.mouse.down();
    await page.mouse.move(grip.x + 40, grip.y - 20, { steps: 6 });
    await page.mouse.up();
  });
  await expect(page.getByRole('button', { name: 'Bend at work' })).toBeVisible();
  const { first } = await bend();
  expect(Math.hypot(first.da, first.db)).toBeGreaterThan(0.02);
  await expect(page.getByRole('spinbutton', { name: 'Bend first green–red', exact: true })).toHaveValue(
    first.da.toFixed(3),
  );
  await expect.poll(() => shown.innerText()).not.toBe(before);
  await d.step(/Bend/, () => page.getByRole('switch', { name: 'Bend on' }).click());
  await expect.poll(() => shown.innerText()).toBe(before);

  await d.stage('Isolate');
  const floor = async () => (await meanOn(page, d, [590, 640, 700, 690])) as [number, number, number];
  await page.getByText('Spill', { exact: true }).click();
  let untouched = await floor();
  // the viewer has another size in this stage: until it shows the same twice
  await expect
    .poll(async () => {
      const before = untouched;
      untouched = await floor();
      return String(before) === String(untouched);
    })
    .toBe(true);
  await d.step('Spill: bounce', () => page.getByText('bounce', { exact: true }).click());
  expect(await floor()).toEqual(untouched);
  await page.getByRole('button', { name: 'Mark the floor' }).click();
  await d.step(/where spill/, () => d.drag([570, 600], [760, 715]));
  await expect.poll(floor, { message: 'the floor takes on the new colour' }).not.toEqual(untouched);
  // teal went, marigold came: more red, less blue
  const bounced = await floor();
  expect(bounced[0] - bounced[2]).toBeGreaterThan(untouched[0] - untouched[2]);

  await page.getByText('Clean-up', { exact: true }).click();
  await d.step('Fit edge of the stack', () => d.number('Fit edge of the stack', '10'));
  expect((await d.sighting('Lark suitcase', '1 Platform'))!.cleanUp!.fitEdge).toBeCloseTo(0.1, 6);

  // what is drawn fits its place, and the room, as these are now
  const ruler = page.locator('.ruler canvas');
  const empty = page.getByRole('button', { name: /^3 Street/ }).locator('.ribbon-band');
  const dark = await colourOf(empty);
  await page.setViewportSize({ width: 1100, height: 760 });
  await expect
    .poll(() => ruler.evaluate((c: HTMLCanvasElement) => c.width - Math.floor(c.clientWidth * devicePixelRatio)))
    .toBe(0);
  await page.getByRole('button', { name: 'Room brightness' }).click();
  await page.getByRole('menuitem', { name: 'Bright room' }).click();
  await expect.poll(async () => Math.min(...(await colourOf(empty)))).toBeGreaterThan(Math.max(...dark) + 60);
});

/** The colour in the middle of a canvas. */
const colourOf = (canvas: Locator): Promise<number[]> =>
  canvas.evaluate((c: HTMLCanvasElement) => {
    const { data } = c.getContext('2d')!.getImageData(Math.floor(c.width / 2), Math.floor(c.height / 2), 1, 1);
    return [data[0]!, data[1]!, data[2]!];
  });

/** The mean code of a part of the shown picture: x, y from, x, y to, source pixels. */
async function meanOn(page: Page, d: Driver, [x0, y0, x1, y1]: readonly number[]): Promise<number[]> {
  const [from, to] = [await d.onScreen(x0!, y0!), await d.onScreen(x1!, y1!)];
  return page.evaluate(
    ([[left, top], [right, bottom]]) => {
      const canvas = document.querySelector<HTMLCanvasElement>('canvas[data-picture="shown"]')!;
      const box = canvas.getBoundingClientRect();
      const k = canvas.width / box.width;
      const part = new OffscreenCanvas(Math.round((right - left) * k), Math.round((bottom - top) * k));
      const g = part.getContext('2d')!;
      g.drawImage(canvas, -(left - box.left) * k, -(top - box.top) * k);
      const { data } = g.getImageData(0, 0, part.width, part.height);
      return [0, 1, 2].map((c) => {
        let sum = 0;
        for (let i = c; i < data.length; i += 4) sum += data[i]!;
        return sum / (data.length / 4);
      });
    },
    [from, to] as const,
  );
}
