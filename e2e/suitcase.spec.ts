// The whole job through the real interface: isolate the suitcase in two shots, recolour it once, measure, render, and
// read the rendered files back with ffmpeg.
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import {
  frameMatte,
  makeTables,
  oklabFromLinear709,
  oklchFromOklab,
  linearFromCode,
  sourceFrame,
  turnDeg,
  type Layer,
} from '../packages/core/src/index.ts';
import { Driver, H, TO_RGB, W, type Place } from './driving.ts';
import { compareMattes, readGbr16, readGrey } from './reading.ts';
import { startServer, type TestServer } from './server.ts';

const demo = join(import.meta.dirname, '../demo');

let server: TestServer;
test.beforeAll(async () => void (server = await startServer()));
test.afterAll(async () => {
  await server.close();
});

async function isolate(d: Driver, picks: [Place, Place][], shape: [Place, Place]) {
  await d.shown();
  await d.page.getByRole('button', { name: 'Pick a colour to add' }).click();
  for (const [from, to] of picks) await d.pick(from, to);
  await d.page.getByRole('button', { name: /^Rectangle/ }).click();
  await d.pick(...shape);
  await expect(d.page.getByRole('region', { name: 'Rectangle 1' })).toBeVisible();
}
const suitcaseLayers = async (d: Driver, shot: string): Promise<Layer[]> =>
  (await d.sighting('Lark suitcase', shot))!.layers;

test('the suitcase becomes marigold in two shots and is rendered', async ({ page }) => {
  const errors: string[] = [];
  page.on('pageerror', (e) => errors.push(e.message));
  const d = new Driver(page, server);
  const { saved } = d;
  await d.open();

  await test.step('isolate it in shot 1: picks in light, middle and shade, a rectangle round it', async () => {
    await d.stage('Isolate');
    await isolate(
      d,
      [
        [
          [440, 420],
          [520, 520],
        ],
        [
          [300, 560],
          [330, 600],
        ],
        [
          [330, 280],
          [480, 300],
        ],
        [
          [276, 330],
          [290, 560],
        ],
      ],
      [
        [225, 220],
        [605, 730],
      ],
    );
    await page.getByText('Matte', { exact: true }).click();
    await expect(page.locator('canvas[data-view="Matte"]')).toBeVisible();
  });
  const layers = await suitcaseLayers(d, '1 Platform');
  expect(layers.map((l) => [l.kind, l.mode])).toEqual([
    ['range', 'add'],
    ['shape', 'within'],
  ]);

  await test.step('the key and the shape, built by hand, meet the ground truth', () => {
    const truth = readGrey(join(demo, 'truth/shot-1-platform.suitcase.mkv'), W, H)[0]!;
    const [g, b, r] = readGbr16(join(demo, 'media/shot-1-platform.mp4'), W, H, `select=eq(n\\,0),${TO_RGB}`)[0]!;
    const alpha = frameMatte(
      sourceFrame({ width: W, height: H, r: r!, g: g!, b: b! }, 'rec709', 1, makeTables()),
      layers,
    );
    const { iou, mae } = compareMattes(
      alpha,
      Float32Array.from(truth, (v) => v / 255),
    );
    console.log(`suitcase, shot 1, frame 0: IoU ${iou.toFixed(3)}, mean absolute error ${mae.toFixed(4)}`);
    expect(iou).toBeGreaterThan(0.9);
  });

  await test.step('give it its colour with the numbers and the swing', async () => {
    await page.getByRole('link', { name: 'Recolour', exact: true }).click();
    await page.getByText('Result', { exact: true }).click();
    await expect(page.getByText('Marigold').first()).toBeVisible();
    const number = async (label: string, value: string) => {
      await page.getByRole('spinbutton', { name: label }).fill(value);
      await page.getByRole('spinbutton', { name: label }).press('Enter');
      await expect(page.getByRole('spinbutton', { name: label })).toHaveValue(Number(value).toFixed(1));
      await saved();
    };
    await number('Hue', '-110');
    const swing = page.getByRole('img', { name: /^Swing/ }).locator('[data-grip="to"]');
    const grip = (await swing.boundingBox())!;
    await page.mouse.move(grip.x + 8, grip.y + 8);
    await page.mouse.down();
    await page.mouse.move(grip.x + 10, grip.y - 2, { steps: 6 });
    await page.mouse.up();
    await saved();
    await expect(page.getByRole('spinbutton', { name: 'Saturation' })).not.toHaveValue('100.0');
    await number('Hue', '-112');
    await number('Saturation', '150');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByRole('spinbutton', { name: 'Saturation' })).not.toHaveValue('150.0');
    await page.getByRole('button', { name: 'Redo' }).click();
    await expect(page.getByRole('spinbutton', { name: 'Saturation' })).toHaveValue('150.0');
  });

  await test.step('shot 2: the same recipe lands there', async () => {
    // a press that takes its time is no drag
    await page.getByRole('button', { name: /^2 Café/ }).click({ position: { x: 12, y: 8 }, delay: 600 });
    await page.getByRole('link', { name: 'Isolate', exact: true }).click();
    await expect(page.getByRole('img', { name: /^2 Café, frame 0/ })).toBeVisible();
    await page.waitForLoadState('networkidle');
    await isolate(
      d,
      [
        [
          [400, 330],
          [424, 430],
        ],
        [
          [404, 450],
          [428, 560],
        ],
        [
          [520, 400],
          [560, 430],
        ],
      ],
      [
        [350, 250],
        [640, 640],
      ],
    );
    await page.getByRole('link', { name: 'Line-up', exact: true }).click();
    await d.measured();
    for (const shot of ['1 Platform', '2 Café']) {
      const cell = page.locator(`[data-cell="Lark suitcase ${shot}"]`);
      await expect(cell.getByText(/ΔE \d/)).toBeVisible();
    }
  });

  await test.step('a reload brings everything back', async () => {
    await page.reload();
    await expect(page.locator('[data-cell="Lark suitcase 2 Café"]').getByText(/ΔE \d/)).toBeVisible();
    await page.getByRole('link', { name: 'Recolour', exact: true }).click();
    await expect(page.getByRole('img', { name: /^2 Café/ })).toBeVisible();
    await expect(page.getByRole('spinbutton', { name: 'Hue' })).toHaveValue('-112.0');
  });

  await test.step('no accessibility violation in any stage', async () => {
    for (const stage of ['Shots', 'Isolate', 'Recolour', 'Line-up', 'Deliver']) {
      await page.getByRole('link', { name: stage, exact: true }).click();
      await page.waitForLoadState('networkidle');
      const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag22aa']).analyze();
      expect(violations.map((v) => `${stage}: ${v.id} ${v.nodes.map((n) => n.html).join(' ')}`.slice(0, 500))).toEqual(
        [],
      );
    }
  });

  await test.step('render both shots and read them back', async () => {
    await page.getByRole('button', { name: /^Render \d shots/ }).click();
    await d.rendered(2);
    const deliveries = await d.json<{ id: string; fileName: string; shotName: string }[]>('/deliveries');
    for (const [shot, source] of [
      ['1 Platform', 'shot-1-platform'],
      ['2 Café', 'shot-2-cafe'],
    ] as const) {
      const delivery = deliveries.find((d) => d.shotName === shot)!;
      const [download] = await Promise.all([
        page.waitForEvent('download'),
        page.getByRole('link', { name: `Download ${delivery.fileName}` }).click(),
      ]);
      checkRender(await download.path(), join(demo, `media/${source}.mp4`), await suitcaseLayers(d, shot));
    }
  });

  expect(errors).toEqual([]);
});

/** Outside every matte the codes are those of the source, bit for bit; inside, hue has turned by what was asked. */
function checkRender(rendered: string, source: string, layers: Layer[]): void {
  expect(existsSync(rendered)).toBe(true);
  const before = readGbr16(source, W, H, TO_RGB);
  const after = readGbr16(rendered, W, H);
  expect(after.length).toBe(before.length);
  for (const frame of [0, 23, 47]) {
    const [g, b, r] = before[frame]!;
    const alpha = frameMatte(
      sourceFrame({ width: W, height: H, r: r!, g: g!, b: b! }, 'rec709', 1, makeTables()),
      layers,
    );
    // the scarf is recoloured too in shot 1: the region of the suitcase's own half of the picture speaks for it
    let [outside, differing, inside, turned] = [0, 0, 0, 0];
    for (let i = 0; i < W * H; i++) {
      const x = i % W;
      if (x > 580 && source.includes('platform')) continue;
      if (alpha[i] === 0) {
        outside++;
        if ([0, 1, 2].some((c) => before[frame]![c]![i] !== after[frame]![c]![i])) differing++;
      } else if (alpha[i]! > 0.99) {
        const hue = ([pg, pb, pr]: Uint16Array[]) =>
          oklchFromOklab(
            oklabFromLinear709(
              [pr![i]!, pg![i]!, pb![i]!].map((v) => linearFromCode('rec709', v / 65535)) as [number, number, number],
            ),
          );
        const [h0, h1] = [hue(before[frame]!), hue(after[frame]!)];
        if (h1.C < 0.04 || [0, 1, 2].some((c) => after[frame]![c]![i] === 0 || after[frame]![c]![i] === 65535))
          continue; // clipped, or too grey to have a hue
        inside++;
        if (Math.abs(turnDeg(h0.hDeg, h1.hDeg) + 112) < 0.5) turned++;
      }
    }
    expect(outside).toBeGreaterThan(100_000);
    expect(differing).toBe(0);
    expect(inside).toBeGreaterThan(5_000);
    expect(turned / inside).toBeGreaterThan(0.999);
  }
}
