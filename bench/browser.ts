// The real interface in headless Chromium at 960×540, read by the application's own marks: the hue label of the
// Recolour stage is dragged to values it has not had before; frames are scrubbed and a shape is dragged; then the shot
// is played, first while its frames are computed, then again, with a key, shape, clean-up and recolour, and with all
// that changes over time on top.
import { chromium, type Page } from '@playwright/test';
import { randomUUID } from 'node:crypto';
import { CHROMIUM } from '../e2e/browser.ts';
import { changeProject } from '../e2e/changing.ts';
import { startServer } from '../e2e/server.ts';
import { benchSplineDrag, splined } from './splineDrag.ts';

interface Played {
  /** Pictures really shown a second, the first time round and once every frame is computed. */
  firstFps: number;
  againFps: number;
  /** Of those, how many did not follow the one before. */
  outOfTurn: number;
}
/** What the page itself does for a move of the pointer: scripts of its own thread, ms. */
interface OwnTime {
  control: number;
  scrub: number;
  shape: number;
}
export interface BrowserResult {
  ownMs: OwnTime;
  medianMs: number;
  p90Ms: number;
  moves: number;
  /** Dragging a spline's point with a wide feather. */
  spline: { medianMs: number; p90Ms: number };
  plain: Played;
  everything: Played;
}
const FRAMES = 48;
const PLAY_MS = 6000;
/** As often as a screen is drawn. */
const MOVE_MS = 16;

/** Plays from the first frame until all are computed, then goes on for some seconds. */
async function played(page: Page): Promise<Played> {
  await page.getByRole('slider', { name: 'Frame' }).press('Home');
  await page.waitForTimeout(1000);
  await page.evaluate(`(() => {
    const canvas = document.querySelector('.viewport canvas');
    window.shown = [];
    window.watch = new MutationObserver(() => window.shown.push([performance.now(), Number(canvas.dataset.frame)]));
    window.watch.observe(canvas, { attributes: true, attributeFilter: ['data-frame'] });
  })()`);
  await page.getByRole('button', { name: 'Play' }).click();
  // asked from outside: the page's policy lets no text be run that waits inside it
  while ((await page.evaluate<number>('window.shown.length')) < FRAMES) await page.waitForTimeout(200);
  await page.waitForTimeout(PLAY_MS);
  await page.getByRole('button', { name: 'Pause' }).click();
  const shown = await page.evaluate<[number, number][]>('window.watch.disconnect(), window.shown');
  const rate = (part: [number, number][]) => (1000 * (part.length - 1)) / (part.at(-1)![0] - part[0]![0]);
  return {
    firstFps: rate(shown.slice(0, FRAMES)),
    againFps: rate(shown.slice(FRAMES)),
    // one that is shown once more, as when it begins to play, leaves none out
    outOfTurn: shown.filter(([, f], i) => i > 0 && (f - shown[i - 1]![1] + FRAMES) % FRAMES > 1).length,
  };
}

type Way = (i: number) => readonly [x: number, y: number];
/**
 * Drags along a way and says how long the page's scripts ran for each move between the first and the last. The moves
 * are sent as a mouse sends them: Playwright's own run a script of its own in the page with each.
 */
async function ownTime(page: Page, way: Way, isEdit: boolean, moves = 60): Promise<number> {
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('Performance.enable');
  const scriptS = async () =>
    (await cdp.send('Performance.getMetrics')).metrics.find((m) => m.name === 'ScriptDuration')!.value;
  const send = (type: 'mouseMoved' | 'mousePressed' | 'mouseReleased', i: number, buttons: 0 | 1) => {
    const [x, y] = way(i);
    const button = type === 'mouseMoved' && buttons === 0 ? 'none' : 'left';
    return cdp.send('Input.dispatchMouseEvent', { type, x, y, button, buttons, clickCount: 1 });
  };
  await send('mouseMoved', 0, 0);
  await send('mousePressed', 0, 1);
  await send('mouseMoved', 1, 1);
  await page.waitForTimeout(1000);
  // what is not held is not measured
  if (isEdit) await page.locator('.view-note').filter({ hasText: 'live' }).waitFor();
  const before = await scriptS();
  for (let i = 0; i < moves; i++) {
    await send('mouseMoved', i + 2, 1);
    await page.waitForTimeout(MOVE_MS);
  }
  const spent = (await scriptS()) - before;
  await send('mouseReleased', moves + 1, 0);
  await cdp.detach();
  return (1000 * spent) / moves;
}

/** The page's own time while the label of a number, the ruler and a newly drawn rectangle are dragged. */
async function ownTimes(page: Page, rest: () => Promise<void>): Promise<OwnTime> {
  const along =
    ({ x, y }: { x: number; y: number }, step: number): Way =>
    (i) => [x + 5 + step * i, y + 5];
  const control = await ownTime(page, along((await hueLabel(page).boundingBox())!, 1), true);
  await rest();
  const ruler = (await page.getByRole('slider', { name: 'Frame' }).boundingBox())!;
  const scrub = await ownTime(page, along(ruler, 6), false);
  await page.getByRole('link', { name: 'Isolate' }).click();
  await page.getByRole('button', { name: 'Rectangle', exact: true }).click();
  const { x, y, width, height } = (await page.locator('.viewport').boundingBox())!;
  await page.mouse.move(x + 0.35 * width, y + 0.35 * height);
  await page.mouse.down();
  await page.mouse.move(x + 0.6 * width, y + 0.6 * height, { steps: 5 });
  await page.mouse.up();
  await rest();
  const shape = await ownTime(page, along({ x: x + 0.47 * width, y: y + 0.47 * height }, 1), true);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await rest();
  await page.getByRole('link', { name: 'Recolour' }).click();
  return { control, scrub, shape };
}
const middle = (rising: number[]) => rising[Math.floor(rising.length / 2)]!;
const hueLabel = (page: Page) => page.locator('.drag-number').filter({ hasText: 'Hue' }).first();

export async function benchBrowser(): Promise<BrowserResult> {
  const server = await startServer();
  const browser = await chromium.launch(CHROMIUM);
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const get = async <T>(path: string): Promise<T> => (await (await fetch(server.url + path)).json()) as T;
    const [project] = await get<{ id: string }[]>('/api/projects');
    const path = `/api/projects/${project!.id}`;
    interface Sighting {
      id: string;
      shotId: string;
      pieceId: string;
      layers: ({ kind: string } & Record<string, unknown>)[];
    }
    interface Document {
      proxies: Record<string, { state: string }>;
      sightings: { value: Sighting; revision: number }[];
      pieces: { value: { id: string; name: string } }[];
      shots: { value: { id: string; name: string } }[];
      colourways: object[];
    }
    const document = () => get<Document>(path);
    const until = async (isSo: () => Promise<boolean>) => {
      while (!(await isSo())) await new Promise((r) => setTimeout(r, 300));
    };
    /** Measured in all colourways, and nothing under way: the processors are the page's. */
    const atRest = async () => {
      const measured = await get<{ fresh: boolean }[]>(`${path}/measurements`);
      const { sightings, colourways } = await document();
      return (
        measured.length >= sightings.length * colourways.length &&
        measured.every((m) => m.fresh) &&
        (await get<{ state: string }[]>(`${path}/jobs`)).every((j) => j.state !== 'running' && j.state !== 'queued')
      );
    };
    /** The same for longer than an edit waits before it is measured. */
    const calm = async () => {
      await page.waitForTimeout(4000);
      await until(atRest);
    };
    await until(async () => Object.values((await document()).proxies).every((p) => p.state === 'done'));
    await until(atRest);
    await page.goto(`${server.url}/projects/${project!.id}/recolour`);
    await page.getByRole('radio', { name: /^Scarf: / }).click();
    const label = hueLabel(page);
    await page.waitForFunction(() => performance.getEntriesByName('mellow:shown').length > 0);
    await page.waitForTimeout(1500);
    const box = (await label.boundingBox())!;
    await page.mouse.move(box.x + 5, box.y + 5);
    await page.mouse.down();
    await page.evaluate(() => performance.clearMeasures());
    // never the same value twice: what has been computed is not computed again
    for (let i = 0; i < 120; i++) {
      await page.mouse.move(box.x + 5 + 2 * i, box.y + 5);
      await page.waitForTimeout(60);
    }
    const times = (await page.evaluate(() => performance.getEntriesByName('mellow:shown').map((e) => e.duration))).sort(
      (a, b) => a - b,
    );
    await page.mouse.up();
    await until(atRest);
    const ownMs = await ownTimes(page, () => until(atRest));
    await calm();
    const plain = await played(page);

    // the scarf of the platform
    const { pieces, shots, sightings } = await document();
    const idOf = (all: { value: { id: string; name: string } }[], name: string) =>
      all.find(({ value }) => value.name === name)!.value.id;
    const [scarf, platform] = [idOf(pieces, 'Scarf'), idOf(shots, '1 Platform')];
    const scarfOf = ({ sightings }: Pick<Document, 'sightings'>) =>
      sightings.find(({ value }) => value.pieceId === scarf && value.shotId === platform)!;
    const change = async (label: string, edits: object[]) => {
      await changeProject(server, project!.id, label, edits);
      await until(atRest);
    };
    const sighting = scarfOf({ sightings });
    const edited = async (value: object) => {
      const { revision } = scarfOf(await document());
      return { kind: 'sighting', id: sighting.value.id, revision, value };
    };
    await change('A wide feather', [await edited({ ...sighting.value, layers: splined(sighting.value.layers) })]);
    const dragged = await benchSplineDrag(page, server);
    await until(atRest);
    // its shape on a track with keyframes of its own, steadied, spill, a strength that changes
    const track = randomUUID();
    const corners = (dx: number) => [
      [640 + dx, 110],
      [830 + dx, 110],
      [830 + dx, 370],
      [640 + dx, 370],
    ];
    const corner = ([x, y]: number[]) => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 });
    const value = {
      ...sighting.value,
      steadyFrames: 1,
      spill: { mode: 'remove', reachPx: 24, amount: 1, tolerance: 0.04 },
      layers: sighting.value.layers.map((l) =>
        l.kind === 'shape'
          ? {
              ...l,
              follow: { trackId: track, move: true, turn: true, scale: true, shear: true, perspective: true },
              animated: {
                strength: [
                  { frame: 0, value: 0.9, ease: 'smooth' },
                  { frame: 47, value: 1, ease: 'smooth' },
                ],
              },
            }
          : l,
      ),
    };
    const edits = [
      {
        kind: 'track',
        id: track,
        revision: null,
        value: {
          id: track,
          projectId: project!.id,
          shotId: sighting.value.shotId,
          name: 'By hand',
          referenceFrame: 24,
          region: { form: 'spline', points: corners(0).map(corner) },
          freedom: { move: true, turn: true, scale: true, shear: true, perspective: true },
          holdOuts: [],
          manual: [
            { frame: 0, corners: corners(4) },
            { frame: 47, corners: corners(-4) },
          ],
          runs: [],
        },
      },
      await edited(value),
    ];
    await change('Everything that changes over time', edits);
    await calm();
    const everything = await played(page);
    return {
      medianMs: middle(times),
      p90Ms: times[Math.floor(times.length * 0.9)]!,
      moves: times.length,
      spline: { medianMs: middle(dragged), p90Ms: dragged[Math.floor(dragged.length * 0.9)]! },
      ownMs,
      plain,
      everything,
    };
  } finally {
    await browser.close();
    await server.close();
  }
}
