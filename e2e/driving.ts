// What every journey does with the real interface: opens the demo, points at picture pixels, waits until a step is
// saved.
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import type { CleanUp, Layer } from '../packages/core/src/index.ts';
import { finished } from './going.ts';
import type { TestServer } from './server.ts';

/** Size of the demo shots. */
export const [W, H] = [1280, 720];
export type Place = [number, number];
/** A point of a path and the handle pulled out of it. */
export type PlacedPoint = readonly [x: number, y: number, hx?: number, hy?: number];

/** zscale, every property named, as the demo files are: H.264 4:2:2 10 bit, BT.709 limited. */
export const TO_RGB =
  'zscale=matrixin=709:rangein=limited:matrix=gbr:range=full:primariesin=709:primaries=709:' +
  'transferin=709:transfer=709,format=gbrp16le';

export interface Document {
  shots: { value: { id: string; name: string } }[];
  pieces: { value: { id: string; name: string } }[];
  colourways: unknown[];
  sightings: {
    value: {
      id: string;
      shotId: string;
      pieceId: string;
      layers: (Layer & { id: string; name: string; locked?: boolean; picks?: unknown[] })[];
      cleanUp: CleanUp | null;
      spill: { mode: string } | null;
    };
  }[];
  proxies: Record<string, { state: string }>;
}

export class Driver {
  readonly page: Page;
  readonly #server: TestServer;
  constructor(page: Page, server: TestServer) {
    this.page = page;
    this.#server = server;
  }

  /** Opens a project of the demo, the one with nothing done yet if not said, and waits until its frames can be seen. */
  async open(project: RegExp = /^Slow Morning, from the start/): Promise<void> {
    await this.page.goto(this.#server.url);
    await this.page.getByRole('link', { name: project }).click();
    await expect(
      this.page
        .getByRole('img', { name: /^1 Platform, frame 0/ })
        .or(this.page.getByRole('img', { name: /^1 Platform, middle frame/ }))
        .first(),
    ).toBeVisible();
    await finished(
      async () => Object.values((await this.document()).proxies),
      (proxies) => proxies.every((p) => p.state === 'done'),
    );
  }
  get projectId(): string {
    return /projects\/([0-9a-f-]+)/.exec(this.page.url())![1]!;
  }
  async json<T>(path: string): Promise<T> {
    // a connection of its own: one that is kept may be closed by the server just as the next call takes it
    const url = `${this.#server.url}/api/projects/${this.projectId}${path}`;
    const answer = await this.page.request.get(url, { headers: { connection: 'close' } });
    if (!answer.ok()) throw new Error(`${path || 'the project'}: ${answer.status()} ${await answer.text()}`);
    return (await answer.json()) as T;
  }
  /** The mask that a pass found on a frame, as the page gets it. */
  async carriedMask({ runId, frame }: { runId: string; frame: number }): Promise<Uint8Array> {
    const url = `${this.#server.url}/api/projects/${this.projectId}/carry-runs/${runId}/${frame}`;
    return (await this.page.request.get(url, { headers: { connection: 'close' } })).body();
  }
  /** A delivery's file, in a folder. */
  async download(deliveryId: string, folder: string): Promise<string> {
    const url = `${this.#server.url}/api/deliveries/${deliveryId}/file`;
    const answer = await this.page.request.get(url, { headers: { connection: 'close' } });
    const file = join(folder, deliveryId);
    await writeFile(file, await answer.body());
    return file;
  }
  /** Waits until every piece is measured as it stands, in every shot and colourway. */
  async measured(): Promise<void> {
    const { sightings, colourways } = await this.document();
    await finished(
      async () => (await this.json<{ fresh: boolean }[]>('/measurements')).filter((m) => m.fresh).length,
      (fresh) => fresh === sightings.length * colourways.length,
    );
  }
  /** Waits until no render is queued or under way and this page offers so many files. */
  async rendered(files: number): Promise<void> {
    await finished(
      async () => (await this.json<{ job: { state: string; done: number } }[]>('/deliveries')).map((x) => x.job),
      (jobs) => jobs.length >= files && jobs.every((job) => job.state !== 'queued' && job.state !== 'running'),
    );
    await expect(this.page.getByRole('link', { name: /^Download/ })).toHaveCount(files);
  }
  document = (): Promise<Document> => this.json<Document>('');
  /** Names of the steps made, newest first. */
  steps = async (): Promise<string[]> =>
    (await this.json<{ label: string; state: string }[]>('/changes'))
      .filter((c) => c.state === 'done')
      .map((c) => c.label);
  async sighting(piece: string, shot: string): Promise<Document['sightings'][number]['value'] | undefined> {
    const d = await this.document();
    const shotId = d.shots.find((s) => s.value.name === shot)!.value.id;
    const pieceId = d.pieces.find((p) => p.value.name === piece)!.value.id;
    return d.sightings.find((s) => s.value.shotId === shotId && s.value.pieceId === pieceId)?.value;
  }

  /** Where a picture pixel lies on screen, by what the viewer says of its zoom and pan. */
  async onScreen(x: number, y: number): Promise<Place> {
    const canvas = this.page.locator('.viewport canvas[role="img"]');
    const box = (await canvas.boundingBox())!;
    const [zoom, left, top] = (await canvas.getAttribute('data-placed'))!.split(' ').map(Number) as [
      number,
      number,
      number,
    ];
    return [box.x + left + x * zoom, box.y + top + y * zoom];
  }
  /** Turns the wheel over a place of the picture: 1000 is about four and a half times. */
  async zoomAt(at: Place, turn: number): Promise<void> {
    const canvas = this.page.locator('.viewport canvas[role="img"]');
    const before = await canvas.getAttribute('data-placed');
    await this.page.mouse.move(...(await this.onScreen(...at)));
    await this.page.mouse.wheel(0, -turn);
    await expect.poll(() => canvas.getAttribute('data-placed')).not.toBe(before);
  }
  /**
   * Draws a closed spline as a hand does: a click for a corner, a drag for a smooth point, a click on the first to
   * close.
   */
  async drawSpline(points: readonly PlacedPoint[], name: string): Promise<void> {
    await this.page.getByRole('button', { name: /^Spline/ }).click();
    await this.step(`Draw ${name}`, async () => {
      for (const [x, y, hx = 0, hy = 0] of points) {
        await this.page.mouse.move(...(await this.onScreen(x, y)));
        await this.page.mouse.down();
        if (hx !== 0 || hy !== 0) await this.page.mouse.move(...(await this.onScreen(x + hx, y + hy)));
        await this.page.mouse.up();
      }
      await this.click([points[0]![0], points[0]![1]]);
    });
  }
  /** Takes a layer in hand, by its matte's picture. */
  layer = (name: string): Promise<void> =>
    this.page.getByRole('img', { name: `Matte of ${name}`, exact: true }).click();
  /** How a layer is combined with those above it. */
  combine = (layer: string, mode: string): Promise<void> =>
    this.step(`${layer}: ${mode}`, () =>
      this.page.getByLabel(`Combine ${layer}`).getByText(mode, { exact: true }).click(),
    );
  /** Presses at the first place, moves through the others and lets go at the last. */
  async draw(places: readonly Place[]): Promise<void> {
    await this.page.mouse.move(...(await this.onScreen(...places[0]!)));
    await this.page.mouse.down();
    for (const at of places.slice(1)) await this.page.mouse.move(...(await this.onScreen(...at)), { steps: 4 });
    await this.page.mouse.up();
  }
  drag = (from: Place, to: Place): Promise<void> =>
    this.draw([from, [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2], to]);
  async click(at: Place): Promise<void> {
    await this.page.mouse.move(...(await this.onScreen(...at)));
    await this.page.mouse.down();
    await this.page.mouse.up();
  }
  saved = () => expect(this.page.locator('.topbar').getByRole('status')).toHaveText('saved');
  /** Does something and waits until it has become a step with this name. */
  async step(name: string | RegExp, act: () => Promise<unknown>): Promise<void> {
    const before = (await this.steps()).length;
    await act();
    await expect.poll(async () => (await this.steps()).length, { message: String(name) }).toBeGreaterThan(before);
    await this.saved();
    expect((await this.steps())[0]).toMatch(name);
  }
  pick = (from: Place, to: Place): Promise<void> =>
    this.step(/Pick a colour|Remove a colour|Draw|of /, () => this.drag(from, to));
  /** Is the picture shown, and all that is round it? */
  shown = () => expect(this.page.locator('.stage-view canvas[data-picture="shown"]')).toBeVisible();
  /** Goes to a frame with the arrow keys. */
  async goTo(frame: number): Promise<void> {
    const ruler = this.page.getByRole('slider', { name: 'Frame' });
    await ruler.focus();
    await ruler.press('Home');
    for (let f = 10; f <= frame; f += 10) await ruler.press('Shift+ArrowRight');
    for (let f = 0; f < frame % 10; f++) await ruler.press('ArrowRight');
    await expect(ruler).toHaveAttribute('aria-valuenow', String(frame));
  }
  async number(name: string, value: string): Promise<void> {
    const field = this.page.getByRole('spinbutton', { name, exact: true });
    await field.fill(value);
    await field.press('Enter');
    await this.saved();
  }
  /**
   * Types numbers into fields faster than the screen is drawn, all in one go; then presses a key on the picture once
   * what is drawn at once is drawn, but nothing that waits for its turn.
   */
  async numbersAtOnce(typed: readonly (readonly [name: string, value: string])[], thenKey?: string): Promise<void> {
    await expect(this.page.getByRole('spinbutton', { name: typed[0]![0], exact: true })).toBeVisible();
    await this.page.evaluate(
      async ([all, key]) => {
        const setValue = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!;
        for (const [name, value] of all) {
          const field = document.querySelector<HTMLInputElement>(`input[role="spinbutton"][aria-label="${name}"]`)!;
          field.focus();
          setValue.call(field, value);
          field.dispatchEvent(new InputEvent('input', { bubbles: true }));
          field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
        }
        if (key === undefined) return;
        for (let turn = 0; turn < 20; turn++) await Promise.resolve();
        const how = { key, code: `Key${key.toUpperCase()}`, bubbles: true };
        const picture = document.querySelector('.stage-view canvas')!;
        picture.dispatchEvent(new KeyboardEvent('keydown', how));
        picture.dispatchEvent(new KeyboardEvent('keyup', how));
      },
      [typed, thenKey] as const,
    );
    await this.saved();
  }
  async stage(name: string): Promise<void> {
    await this.page.getByRole('link', { name, exact: true }).click();
  }
  async shot(name: string): Promise<void> {
    await this.page.getByRole('button', { name: new RegExp(`^${name}`) }).click({ position: { x: 12, y: 8 } });
  }
  async piece(name: string): Promise<void> {
    await this.page.getByRole('radio', { name: new RegExp(`^${name}: `) }).click();
  }
  async colourway(name: string): Promise<void> {
    await this.page.getByRole('radiogroup', { name: 'Colourway' }).getByRole('radio', { name, exact: true }).click();
  }
  /** Chooses from a menu that a button opens. */
  async menu(button: string | RegExp, item: string | RegExp): Promise<void> {
    await this.page.getByRole('button', { name: button }).click();
    await this.page.getByRole('menuitem', { name: item }).click();
  }
}
