// Takes the README's pictures from a fresh demo: isolates and recolours the suitcase through the API, as the journey does
// by hand, so that every view has something to show. Needs MELLOW_TEST_DATABASE_URL and a built web app.
//   npm run screenshots
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { CHROMIUM } from '../e2e/browser.ts';
import { startServer } from '../e2e/server.ts';

const out = join(import.meta.dirname, '../docs/screenshots');
const server = await startServer({ demo: true });
const browser = await chromium.launch(CHROMIUM);
type Row = { value: { id: string; name: string }; revision: number };
interface Document { shots: Row[]; pieces: Row[]; colourways: Row[]; sightings: Row[]; proxies: Record<string, { state: string }> }
const get = async <T>(path: string): Promise<T> => (await (await fetch(server.url + path)).json()) as T;
try {
  const [project] = await get<{ id: string }[]>('/api/projects');
  const path = `/api/projects/${project!.id}`;
  const document = () => get<Document>(path);
  const d = await document();
  const change = async (label: string, edits: object[]) => {
    const response = await fetch(`${server.url}${path}/changes`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ id: randomUUID(), label, edits }) });
    if (!response.ok) throw new Error(await response.text());
  };
  const piece = d.pieces[0]!.value.id;
  const w = (lo: number, hi: number, softLo: number, softHi = softLo) => ({ on: true, lo, hi, softLo, softHi });
  const layer = { on: true, invert: false, strength: 1 };
  const stack = (key: object, geometry: object) => [
    { ...layer, id: randomUUID(), name: 'Teal shell', mode: 'add', kind: 'range', key, picks: [] },
    { ...layer, id: randomUUID(), name: 'Round the suitcase', mode: 'within', kind: 'shape', geometry, feather: { innerPx: 2, outerPx: 8, falloff: 'smooth' } },
  ];
  const sight = (shot: number, layers: object[]) => {
    const id = randomUUID();
    return { kind: 'sighting', id, revision: null, value: { id, projectId: project!.id, pieceId: piece, shotId: d.shots[shot]!.value.id, layers, cleanUp: { quietPx: 0, floor: 0, ceiling: 1, islandsPx: 80, holesPx: 30, edgePx: 0, softenPx: 0.7, softenBias: 0 }, spill: shot === 0 ? { mode: 'follow', reachPx: 40, amount: 1, tolerance: 0.03 } : null } };
  };
  await change('Isolate the suitcase', [
    sight(0, stack({ hue: w(175, 203, 10), chroma: w(0.05, 0.16, 0.03), lightness: w(0.25, 0.85, 0.12) }, { form: 'rectangle', cx: 400, cy: 475, width: 400, height: 520, turnDeg: 0 })),
    sight(1, stack({ hue: w(156, 200, 83), chroma: w(0.037, 0.4, 0.03), lightness: w(0.1, 0.9, 0.05) }, { form: 'rectangle', cx: 505, cy: 450, width: 330, height: 400, turnDeg: 0 })),
  ]);
  const recipe = randomUUID();
  await change('Recolour the suitcase', [{ kind: 'recipe', id: recipe, revision: null, value: { id: recipe, projectId: project!.id, pieceId: piece, colourwayId: d.colourways[0]!.value.id, shift: { exposureStops: 0.1, hueDeg: -111, saturation: 1.42, density: 0 }, strength: 1 } }]);
  for (;;) {
    const measured = await get<{ fresh: boolean }[]>(`${path}/measurements`);
    // three sightings (two of the suitcase, the scarf) in three colourways
    if (measured.length === 9 && measured.every((m) => m.fresh)) break;
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.on('pageerror', (e) => console.error('page error:', e.message));
  const shoot = async (name: string) => {
    await page.waitForTimeout(2500);
    await page.screenshot({ path: join(out, `${name}.png`) });
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
  await page.getByRole('region', { name: 'Round the suitcase' }).click();
  await shoot('matte');
  await page.getByText('Result', { exact: true }).click();
  await page.getByText('Clean-up', { exact: true }).click();
  await page.keyboard.press('w');
  await shoot('compare');
  await page.keyboard.press('w');
  await page.getByText('Spill', { exact: true }).click();
  await page.getByText('Tint', { exact: true }).click();
  await shoot('spill');
  await page.getByText('Result', { exact: true }).click();
  await stage('recolour');
  await shoot('recolour');
  await stage('lineup');
  await shoot('lineup');
  await stage('deliver');
  await page.getByRole('button', { name: /^Render \d/ }).click();
  await page.getByRole('link', { name: /^Download/ }).nth(1).waitFor({ timeout: 180_000 });
  await shoot('deliver');
} finally {
  await browser.close();
  await server.close();
}
