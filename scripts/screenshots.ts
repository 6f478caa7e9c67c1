// Takes the README's pictures from a fresh demo: of the film that is done, and of the one from the start, where the
// suitcase is isolated and recoloured through the API so that every view of that work has something to show. Needs
// MELLOW_TEST_DATABASE_URL and a built web app.
//   npm run screenshots
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { CHROMIUM } from '../e2e/browser.ts';
import { changeProject } from '../e2e/changing.ts';
import { startServer } from '../e2e/server.ts';

const out = join(import.meta.dirname, '../docs/screenshots');
const server = await startServer();
const browser = await chromium.launch(CHROMIUM);
type Row = { value: { id: string; name: string }; revision: number };
interface Document {
  shots: Row[];
  pieces: Row[];
  colourways: Row[];
  sightings: Row[];
  proxies: Record<string, { state: string }>;
}
const get = async <T>(path: string): Promise<T> => (await (await fetch(server.url + path)).json()) as T;
try {
  const projects = await get<{ id: string; name: string }[]>('/api/projects');
  const project = projects.find((p) => p.name === 'Slow Morning, from the start');
  const done = projects.find((p) => p.name === 'Slow Morning');
  const path = `/api/projects/${project!.id}`;
  const document = () => get<Document>(path);
  const d = await document();
  const change = (label: string, edits: object[]) => changeProject(server, project!.id, label, edits);
  const piece = d.pieces[0]!.value.id;
  const w = (lo: number, hi: number, softLo: number, softHi = softLo) => ({ on: true, lo, hi, softLo, softHi });
  const layer = { on: true, invert: false, strength: 1 };
  const stack = (key: object, geometry: object) => [
    { ...layer, id: randomUUID(), name: 'Teal shell', mode: 'add', kind: 'range', key, picks: [] },
    {
      ...layer,
      id: randomUUID(),
      name: 'Round the suitcase',
      mode: 'within',
      kind: 'shape',
      geometry,
      feather: { innerPx: 2, outerPx: 8, falloff: 'smooth' },
    },
  ];
  const sight = (shot: number, layers: object[]) => {
    const id = randomUUID();
    return {
      kind: 'sighting',
      id,
      revision: null,
      value: {
        id,
        projectId: project!.id,
        pieceId: piece,
        shotId: d.shots[shot]!.value.id,
        layers,
        animated: {},
        cleanUp: {
          quietPx: 0,
          floor: 0,
          ceiling: 1,
          islandsPx: 80,
          holesPx: 30,
          edgePx: 0,
          softenPx: 0.7,
          softenBias: 0,
        },
        spill: shot === 0 ? { mode: 'remove', reachPx: 40, amount: 1, tolerance: 0.03 } : null,
      },
    };
  };
  await change('Isolate the suitcase', [
    sight(
      0,
      stack(
        { hue: w(175, 203, 10), chroma: w(0.05, 0.16, 0.03), lightness: w(0.25, 0.85, 0.12) },
        { form: 'rectangle', cx: 400, cy: 475, width: 400, height: 520, turnDeg: 0 },
      ),
    ),
    sight(
      1,
      stack(
        { hue: w(156, 200, 83), chroma: w(0.037, 0.4, 0.03), lightness: w(0.1, 0.9, 0.05) },
        { form: 'rectangle', cx: 505, cy: 450, width: 330, height: 400, turnDeg: 0 },
      ),
    ),
  ]);
  const recipe = randomUUID();
  await change('Recolour the suitcase', [
    {
      kind: 'recipe',
      id: recipe,
      revision: null,
      value: {
        animated: {},
        id: recipe,
        projectId: project!.id,
        pieceId: piece,
        colourwayId: d.colourways[0]!.value.id,
        shift: { exposureStops: 0.1, hueDeg: -111, saturation: 1.42, density: 0 },
        strength: 1,
      },
    },
  ]);
  const measured = async (id: string, sightings: number) => {
    for (;;) {
      const all = await get<{ fresh: boolean }[]>(`/api/projects/${id}/measurements`);
      // each in three colourways
      if (all.length >= 3 * sightings && all.every((m) => m.fresh)) break;
      await new Promise((resolve) => setTimeout(resolve, 500));
    }
  };
  await measured(done!.id, 7);
  await measured(project!.id, 2);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.on('pageerror', (e) => console.error('page error:', e.message));
  const shoot = async (name: string) => {
    // where there is a viewer, until it shows the frame it should
    const ruler = page.getByRole('slider', { name: 'Frame' });
    // the first picture comes before all that stands round it
    await page.locator('.topbar > *').first().waitFor({ timeout: 90_000 });
    await page.waitForTimeout(2500);
    if (await ruler.isVisible())
      await page
        .locator(`.viewport canvas[data-frame="${await ruler.getAttribute('aria-valuenow')}"]`)
        .waitFor({ timeout: 90_000 });
    await page.waitForTimeout(2500);
    await page.screenshot({ path: join(out, `${name}.png`) });
  };
  const track = randomUUID();
  const makeTrack = async () => {
    const corner = (x: number, y: number) => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 });
    const freedom = { move: true, turn: true, scale: true, shear: true, perspective: false };
    await change('Draw Case front', [
      {
        kind: 'track',
        id: track,
        revision: null,
        value: {
          id: track,
          projectId: project!.id,
          shotId: d.shots[0]!.value.id,
          name: 'Case front',
          referenceFrame: 24,
          region: { form: 'spline', points: [corner(290, 290), corner(545, 290), corner(545, 690), corner(290, 690)] },
          freedom,
          holdOuts: [],
          manual: [],
          runs: [],
        },
      },
    ]);
    await fetch(`${server.url}${path}/track-runs`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({
        trackId: track,
        spans: [
          { from: 24, to: 47 },
          { from: 24, to: 0 },
        ],
      }),
    });
    while (
      (await get<{ kind: string; state: string }[]>(`${path}/jobs`)).some(
        (j) => j.kind === 'track' && ['queued', 'running'].includes(j.state),
      )
    )
      await new Promise((resolve) => setTimeout(resolve, 300));
    const sighting = (await document()).sightings.find(
      (s) =>
        (s.value as unknown as { pieceId: string; shotId: string }).pieceId === piece &&
        (s.value as unknown as { shotId: string }).shotId === d.shots[0]!.value.id,
    )! as unknown as { value: { id: string; layers: object[] }; revision: number };
    const [key, shape] = sighting.value.layers;
    const at = (x0: number, y0: number, x1: number, y1: number) => ({
      form: 'spline',
      points: [corner(x0, y0), corner(x1, y0), corner(x1, y1), corner(x0, y1)],
    });
    const keys = [
      [0, at(200, 225, 590, 715)],
      [24, at(196, 222, 590, 718)],
      [47, at(190, 220, 592, 718)],
    ].map(([frame, value]) => ({ frame, value, ease: 'smooth' }));
    await change('The shape follows', [
      {
        kind: 'sighting',
        id: sighting.value.id,
        revision: sighting.revision,
        value: {
          ...sighting.value,
          layers: [
            key,
            {
              ...shape,
              geometry: at(196, 222, 590, 718),
              paths: keys,
              follow: { ...freedom, trackId: track },
              animated: {
                'feather.outerPx': [
                  { frame: 0, value: 8, ease: 'smooth' },
                  { frame: 30, value: 14, ease: 'linear' },
                ],
                strength: [{ frame: 6, value: 1, ease: 'hold' }],
              },
            },
          ],
        },
      },
    ]);
  };
  const stage = (name: string) => page.goto(`${server.url}/projects/${project!.id}/${name}`);
  await page.goto(server.url);
  await shoot('projects');
  await stage('shots');
  await shoot('shots');
  await page.getByRole('button', { name: 'Balance 3 Street' }).click();
  await shoot('balance');
  await page.getByRole('button', { name: /^1 Platform/ }).click({ position: { x: 12, y: 8 } });
  await stage('isolate');
  await page.getByRole('slider', { name: 'Frame' }).press('Home');
  await shoot('isolate');
  await page.getByText('Matte', { exact: true }).click();
  await page.getByRole('img', { name: 'Matte of Round the suitcase' }).click();
  await shoot('matte');
  await page.getByText('Result', { exact: true }).click();
  await page.getByText('Clean-up', { exact: true }).click();
  await page.keyboard.press('w');
  // through the piece, so that both sides of the line are seen
  const { x, y, width, height } = (await page.locator('.viewport').boundingBox())!;
  await page.mouse.move(x + width / 2, y + height / 2);
  await page.mouse.down();
  await page.mouse.move(x + 0.33 * width, y + height / 2, { steps: 4 });
  await page.mouse.up();
  await shoot('compare');
  await page.keyboard.press('w');
  await page.getByText('Spill', { exact: true }).click();
  await page.getByText('Tint', { exact: true }).click();
  await shoot('spill');
  await page.getByText('Result', { exact: true }).click();
  const stroke = (sign: 'in' | 'out', ...points: number[][]) => ({ sign, widthPx: 14, points, frame: 24 });
  const lantern = d.pieces.find((p) => p.value.name === 'Lantern')!.value.id;
  const scribbled = randomUUID();
  await change('Scribble the lantern', [
    {
      kind: 'sighting',
      id: scribbled,
      revision: null,
      value: {
        id: scribbled,
        projectId: project!.id,
        pieceId: lantern,
        shotId: d.shots[4]!.value.id,
        animated: {},
        cleanUp: null,
        spill: null,
        layers: [
          {
            ...layer,
            id: randomUUID(),
            name: 'White frame',
            mode: 'add',
            kind: 'scribble',
            strokes: [
              stroke('in', [155, 378], [264, 378]),
              stroke('in', [148, 229], [148, 316], [167, 352]),
              stroke('in', [273, 229], [273, 316], [255, 352]),
              stroke('in', [172, 176], [232, 176]),
              stroke('out', [211, 264], [211, 299]),
              stroke('out', [105, 141], [105, 369]),
              stroke('out', [316, 141], [316, 369]),
              stroke('out', [123, 141], [299, 141]),
              stroke('out', [141, 422], [290, 422]),
            ],
          },
        ],
      },
    },
  ]);
  await page.getByRole('button', { name: /^5 Gate/ }).click({ position: { x: 12, y: 8 } });
  await page.getByRole('radio', { name: /^Lantern: / }).click();
  for (let f = 0; f < 24; f++) await page.getByRole('slider', { name: 'Frame' }).press('ArrowRight');
  await page.getByText('Layer', { exact: true }).click();
  await page.getByText('Carried', { exact: true }).click();
  await page.getByText('strokes on 1 frame', { exact: true }).waitFor({ timeout: 120_000 });
  await page
    .getByRole('button', { name: /at a glance: …$/ })
    .first()
    .waitFor({ state: 'detached' });
  await page.getByText('Tint', { exact: true }).click();
  await shoot('scribble');
  await page.getByText('Result', { exact: true }).click();
  await page.getByRole('button', { name: /^1 Platform/ }).click({ position: { x: 12, y: 8 } });
  await page.getByRole('radio', { name: /^Lark suitcase: / }).click();
  const stageOfDone = (name: string) => page.goto(`${server.url}/projects/${done!.id}/${name}`);
  await stageOfDone('recolour');
  await shoot('recolour');
  await page.keyboard.press('y');
  await page.getByLabel('Scope of').getByText('inside').click();
  await page.getByRole('button', { name: 'Hue bands', exact: true }).click();
  await page.getByRole('switch', { name: 'Hue bands on' }).scrollIntoViewIfNeeded();
  await shoot('tools');
  await page.keyboard.press('y');
  await page.getByRole('button', { name: 'Gallery of colourways' }).click();
  await page.getByRole('dialog').getByText(/ΔE/).nth(2).waitFor();
  await shoot('gallery');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('loop');
  await shoot('commands');
  await stageOfDone('lineup');
  // every cut-out has been computed and drawn
  await page.waitForFunction(() => {
    const crops = [...globalThis.document.querySelectorAll<HTMLCanvasElement>('canvas.crop')];
    return (
      crops.length >= 6 &&
      // no function of its own: what the compiler adds to a named one is not there in the page
      crops.every((c) =>
        c
          .getContext('2d')!
          .getImageData(c.width / 2, c.height / 2, 1, 1)
          .data.some((v) => v > 0),
      )
    );
  });
  await shoot('lineup');
  await stageOfDone('deliver');
  await page.getByRole('button', { name: /^Render \d/ }).click();
  await page
    .getByRole('link', { name: /^Download/ })
    .nth(1)
    .waitFor({ timeout: 180_000 });
  const reviewed = await get<Document>(`/api/projects/${done!.id}`);
  const sent = await fetch(`${server.url}/api/projects/${done!.id}/reviews`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({
      name: 'First cut for the brand',
      shotIds: [reviewed.shots[0]!.value.id],
      colourwayIds: reviewed.colourways.map((c) => c.value.id),
      daysValid: 14,
    }),
  });
  const { token } = (await sent.json()) as { token: string };
  const client = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await client.goto(`${server.url}/review/${token}`);
  await client.getByRole('textbox', { name: 'Your name' }).fill('Ada');
  await client.locator('video').nth(1).waitFor({ timeout: 180_000 });
  const picture = (await client.locator('.marks').boundingBox())!;
  const at = (x: number, y: number) => [picture.x + picture.width * x, picture.y + picture.height * y] as const;
  await client.mouse.move(...at(0.53, 0.2));
  await client.mouse.down();
  for (let turn = 0; turn <= 40; turn++)
    await client.mouse.move(...at(0.6 + 0.07 * Math.sin(turn / 6 - 1.6), 0.33 - 0.18 * Math.cos(turn / 6 - 0.8)));
  await client.mouse.up();
  await client.getByRole('textbox', { name: 'Note' }).fill('Pinker than in the pick-up? See the fringe.');
  await client.getByRole('button', { name: 'Add the note' }).click();
  await client.getByRole('listitem', { name: 'Lark suitcase' }).getByRole('button', { name: 'Approve' }).click();
  await client.getByText('rendering', { exact: true }).waitFor({ state: 'hidden', timeout: 180_000 });
  await client.waitForTimeout(1500);
  await client.screenshot({ path: join(out, 'review.png') });
  await client.close();
  await shoot('deliver');
  await makeTrack();
  const current = (
    await get<{ recipes: { value: { id: string; pieceId: string }; revision: number }[] }>(path)
  ).recipes.find((r) => r.value.id === recipe)!;
  await change('Fade in', [
    {
      kind: 'recipe',
      id: recipe,
      revision: current.revision,
      value: {
        ...current.value,
        animated: {
          [d.shots[0]!.value.id]: {
            strength: [
              { frame: 4, value: 0, ease: 'smooth' },
              { frame: 22, value: 1, ease: 'hold' },
            ],
            'shift.hueDeg': [
              { frame: 22, value: -111, ease: 'smooth' },
              { frame: 44, value: -60, ease: 'smooth' },
            ],
          },
        },
      },
    },
  ]);
  await stage('isolate');
  await page.getByRole('slider', { name: 'Frame' }).press('Home');
  for (let f = 0; f < 3; f++) await page.getByRole('slider', { name: 'Frame' }).press('Shift+ArrowRight');
  await page.getByRole('img', { name: 'Matte of Round the suitcase' }).click();
  await page.getByText('Track', { exact: true }).last().click();
  await shoot('track');
  await page.getByText('Keyframes', { exact: true }).click();
  await page.getByText('Tint', { exact: true }).click();
  await shoot('keyframes');
  await page.getByText('Clean-up', { exact: true }).click();
  await page.getByText('Matte', { exact: true }).click();
  await page.getByRole('button', { name: 'Check how it holds' }).click();
  await page.getByRole('button', { name: 'Check how it holds' }).waitFor({ timeout: 120_000 });
  await page.getByLabel('Slip', { exact: true }).first().scrollIntoViewIfNeeded();
  await shoot('steady');
  await page.getByText('Result', { exact: true }).click();
  await stage('recolour');
  await shoot('animate');
} finally {
  await browser.close();
  await server.close();
}
