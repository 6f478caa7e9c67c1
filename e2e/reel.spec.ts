// From the reel to the hand-over: one long file and a cut list, a split, a look, a review with a note and an approval,
// two colourways rendered with their mattes, the report, and the archive opened in a second installation. What leaves
// is read back by other programs.
import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Download, type Page } from '@playwright/test';
import { cubeOf, cubeText } from '../packages/core/src/index.ts';
import { words } from '../packages/server/src/media/words.ts';
import { Driver, H, TO_RGB, W } from './driving.ts';
import { finished } from './going.ts';
import { readGbr16 } from './reading.ts';
import { ownFolder } from './ownFolder.ts';
import { startServer, type TestServer } from './server.ts';

const demo = join(import.meta.dirname, '../demo');
const work = ownFolder();
let server: TestServer;
/** An installation with a database and footage of its own. */
let second: TestServer;
test.beforeAll(async () => {
  server = await startServer();
  second = await startServer();
});
test.afterAll(async () => {
  await server.close();
  await second.close();
});

const LIST = `TITLE: CUT 3
FCM: NON-DROP FRAME
001  ROLL     V     C        07:00:00:10 07:00:01:00 01:00:00:00 01:00:00:14
* FROM CLIP NAME: roll.mkv
002  ROLL     V     C        07:00:02:00 07:00:02:12 01:00:00:14 01:00:01:02
* FROM CLIP NAME: roll.mkv
003  STREET   V     C        06:00:01:12 06:00:03:00 01:00:01:02 01:00:02:14
* FROM CLIP NAME: shot-3-street.mp4
`;
/** The street and then the café, as one file of 96 frames. */
function longFile(path: string): void {
  const shots = ['shot-3-street.mp4', 'shot-2-cafe.mp4'].flatMap((name) => ['-i', join(demo, 'media', name)]);
  const joined =
    '[0:v][1:v]concat=n=2:v=1,setparams=range=tv:color_primaries=bt709:color_trc=bt709:colorspace=bt709[v]';
  const coded = '-c:v libx264 -preset ultrafast -crf 12 -pix_fmt yuv422p10le -metadata timecode=07:00:00:00';
  execFileSync('ffmpeg', [
    ...words('-v error -y'),
    ...shots,
    '-filter_complex',
    joined,
    ...words(`-map [v] ${coded}`),
    path,
  ]);
}
const rowOf = (page: Page, shot: string) =>
  page.getByRole('row').filter({ has: page.getByAltText(`${shot}, middle frame`) });

test('a cut list, a split, a look, a part rendered with its mattes, and the report', async ({ page }) => {
  const errors: string[] = [];
  page.on('pageerror', (e) => errors.push(e.message));
  const d = new Driver(page, server);
  await d.open(/^Slow Morning(?!,)/);

  await test.step('a cut list makes shots of what is there, and says what it leaves', async () => {
    await d.stage('Shots');
    longFile(work('roll.mkv'));
    await page.locator('input[type="file"][multiple]').first().setInputFiles(work('roll.mkv'));
    await expect(rowOf(page, 'roll')).toContainText('96');
    await finished(
      async () => Object.values((await d.document()).proxies),
      (proxies) => proxies.length === 6 && proxies.every((p) => p.state === 'done'),
    );
    writeFileSync(work('cut3.edl'), LIST);
    const upload = page.locator('input[type="file"][accept^=".edl"]');
    await d.step('Cut list CUT 3', () => upload.setInputFiles(work('cut3.edl')));
    const said = page.getByRole('alert').filter({ hasText: 'cut3.edl' });
    await expect(said).toContainText('cut3.edl made 2 shots');
    await expect(said).toContainText('Event 003, line 7: shot-3-street.mp4 does not hold 06:00:01:12 to 06:00:03:00.');
    await expect(rowOf(page, '001 roll.mkv')).toContainText('10–23');
    await expect(rowOf(page, '001 roll.mkv')).toContainText('07:00:00:10');
    await expect(rowOf(page, '002 roll.mkv')).toContainText('48–59');
    const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag22aa']).analyze();
    expect(violations.map((v) => v.id)).toEqual([]);
  });

  await test.step('a panel keeps the width it was given', async () => {
    await d.stage('Isolate');
    await d.shown();
    const widthOf = async () => (await page.locator('.panel').boundingBox())!.width;
    const before = await widthOf();
    const { x, y, height } = (await page.getByRole('separator', { name: 'Panel width' }).boundingBox())!;
    await page.mouse.move(x + 2, y + height / 2);
    await page.mouse.down();
    await page.mouse.move(x + 82, y + height / 2, { steps: 4 });
    await page.mouse.up();
    const wide = await widthOf();
    expect(Math.abs(wide - before - 80)).toBeLessThanOrEqual(2);
    await page.reload();
    await d.shown();
    expect(Math.abs((await widthOf()) - wide)).toBeLessThanOrEqual(1);
  });

  await test.step('a shot is split with all that hangs on it, and joined again by undo', async () => {
    await d.stage('Isolate');
    await d.shot('1 Platform');
    await d.shown();
    await d.goTo(36);
    const cell = page.getByRole('button', { name: /^1 Platform(?! \()/ });
    await cell.click({ button: 'right', position: { x: 12, y: 8 } });
    await d.step('Split 1 Platform at frame 36', () =>
      page.getByRole('menuitem', { name: 'Split it at frame 36' }).click(),
    );
    await expect(page.getByRole('img', { name: /^1 Platform \(2\), frame 36/ })).toBeVisible();
    const ruler = page.getByRole('slider', { name: 'Frame' });
    await expect(ruler).toHaveAttribute('aria-valuemin', '36');
    // the layers are those of the whole, and the picture is recoloured as before
    await expect(page.getByRole('region', { name: 'Range key 1' })).toBeVisible();
    await page.keyboard.press('Home');
    await expect(ruler).toHaveAttribute('aria-valuenow', '36');
    await page.keyboard.press('End');
    await expect(ruler).toHaveAttribute('aria-valuenow', '47');
    const { sightings } = await d.document();
    expect(sightings).toHaveLength(9);
  });

  await test.step('a look is brought in, judged through, and left out with a key', async () => {
    writeFileSync(work('dim.cube'), cubeText(cubeOf('Dim', 5, (rgb) => void rgb.forEach((v, c) => (rgb[c] = v / 2)))));
    await d.stage('Recolour');
    await expect(page.getByRole('img', { name: /^Swing/ })).toBeVisible();
    await d.shown();
    const middle = () =>
      page.evaluate(() => {
        const canvas = document.querySelector<HTMLCanvasElement>('.stage-view canvas[data-picture="shown"]')!;
        return canvas.getContext('2d')!.getImageData(canvas.width / 2, canvas.height / 4, 1, 1).data[0]!;
      });
    const before = await middle();
    await page.getByRole('button', { name: 'Look', exact: true }).click();
    // a key pressed right behind a number is not lost, though the bar above the picture is drawn later
    const made = (await d.steps()).length;
    await d.step('Look off', () => d.numbersAtOnce([['Saturation of the look', '50']], 'u'));
    const undo = page.getByRole('button', { name: 'Undo' });
    for (const left of [made + 1, made]) {
      await undo.click();
      await expect.poll(async () => (await d.steps()).length).toBe(left);
    }
    // not by its hint, which goes where the head moves under the pointer
    await expect(undo).toHaveAttribute('aria-description', 'Split 1 Platform at frame 36');
    await d.step('Look through Dim', () =>
      page.locator('.look-menu input[type="file"]').first().setInputFiles(work('dim.cube')),
    );
    await expect.poll(middle).toBeLessThan(before * 0.75);
    await page.keyboard.press('Escape');
    await page.locator('.stage-view canvas').first().focus();
    await d.step('Look off', () => page.keyboard.press('u'));
    await expect.poll(middle).toBe(before);
  });

  await test.step('the part is rendered under its own frames and timecode, with and without the look', async () => {
    await d.stage('Deliver');
    await expect(page.getByRole('button', { name: /^Render \d shots$/ })).toBeVisible();
    for (const box of await page.locator('.shot-picks .ant-checkbox-wrapper').all())
      if ((await box.innerText()).includes('001 roll') !== (await box.locator('input').isChecked())) await box.click();
    const render = page.getByRole('button', { name: 'Render 1 shot' });
    await render.click();
    await d.rendered(1);
    await page.getByLabel('Through the look').check();
    await page.getByRole('textbox', { name: 'Name pattern' }).fill('{project}_{shot}_v{n}');
    await expect(page.getByText('Slow-Morning_001-roll.mkv_v2.mkv')).toBeVisible();
    await render.click();
    await d.rendered(2);
    const deliveries = await d.json<{ id: string; fileName: string; job: { total: number } }[]>('/deliveries');
    expect(deliveries.map((x) => x.job.total)).toEqual([14, 14]);
    expect(deliveries[0]!.fileName).toBe('Slow-Morning_001-roll.mkv_v2.mkv');
    const [seen, plain] = await Promise.all(deliveries.map((x) => d.download(x.id, work())));
    const filters = `select=between(n\\,10\\,23),${TO_RGB}`;
    const source = readGbr16(work('roll.mkv'), W, H, filters, 14);
    const [rendered, looked] = [readGbr16(plain!, W, H), readGbr16(seen!, W, H)];
    expect(rendered).toHaveLength(14);
    // nothing is isolated in the new shot: every code is the source's
    expect(rendered[13]).toEqual(source[13]);
    expect(looked[0]![0]![12_345]).toBeCloseTo(source[0]![0]![12_345]! / 2, -1);
    const tags = execFileSync('ffprobe', [...words('-v error -show_entries format_tags -of default=nw=1'), plain!], {
      encoding: 'utf8',
    });
    expect(tags).toContain('07:00:00:10');
  });

  await test.step('a review is sent; its client notes, sends back and approves; the house sees it', async () => {
    await d.stage('Deliver');
    for (const box of await page.locator('.shot-picks .ant-checkbox-wrapper').all())
      if ((await box.innerText()).includes('1 Platform (2)') !== (await box.locator('input').isChecked()))
        await box.click();
    await page.getByRole('button', { name: /^Send for review/ }).click();
    await page.getByRole('textbox', { name: 'Name of the review' }).fill('First cut');
    await page.getByRole('button', { name: 'Send', exact: true }).click();
    const sent = page.getByRole('region', { name: 'First cut' });
    await expect(sent).toContainText(/open until/);
    const link = (await sent.getByRole('link', { name: 'Open' }).getAttribute('href'))!;

    const client = await page.context().newPage();
    client.on('pageerror', (e) => errors.push(e.message));
    await client.goto(link);
    await client.getByRole('textbox', { name: 'Your name' }).fill('Ada');
    const films = client.locator('video');
    await finished(
      () => d.json<{ state: string; done: number }[]>('/jobs'),
      (jobs) => jobs.every((job) => job.state !== 'queued' && job.state !== 'running'),
    );
    await expect(films).toHaveCount(2);
    await expect(client.getByText('frame 36', { exact: false }).first()).toBeVisible();
    await client.getByRole('button', { name: 'Next frame' }).click();
    await client.getByRole('button', { name: 'Next frame' }).click();
    // both films stand on the third frame of the part, by their own clocks
    const clocks = () => films.evaluateAll((all) => all.map((v) => (v as HTMLVideoElement).currentTime));
    await expect.poll(clocks).toEqual([2.5 / 24, 2.5 / 24].map((t) => expect.closeTo(t, 3)));
    await client.keyboard.press('Space');
    await expect.poll(async () => (await clocks())[0]).toBeGreaterThan(0.2);
    await client.keyboard.press('Space');
    await client.getByRole('slider', { name: 'Frame' }).focus();
    await client.keyboard.press('Home');
    const picture = (await client.locator('.marks').boundingBox())!;
    await client.mouse.click(picture.x + picture.width * 0.75, picture.y + picture.height / 2);
    await client.getByRole('textbox', { name: 'Note' }).fill('Less red on the handle');
    await client.getByRole('button', { name: 'Add the note' }).click();
    await expect(client.getByRole('list', { name: 'Notes' })).toContainText('Ada, 02:00:01:12 · frame 36');
    const suitcase = client.getByRole('listitem', { name: 'Suitcase' });
    await suitcase.getByRole('button', { name: /^Send back/ }).click();
    await suitcase.getByRole('textbox').fill('Too red');
    await suitcase.getByRole('button', { name: 'Send back', exact: true }).click();
    await expect(suitcase).toContainText('sent back by Ada');
    const { violations } = await new AxeBuilder({ page: client }).withTags(['wcag2a', 'wcag2aa', 'wcag22aa']).analyze();
    expect(violations.map((v) => [v.id, v.nodes.map((n) => n.html)])).toEqual([]);

    const cell = page.getByRole('button', { name: /^1 Platform \(2\)/ });
    await expect(cell).toContainText('sent back by Ada');
    await expect(cell).toContainText('1 note');
    await expect(page.getByText('the Lark suitcase was sent back by Ada: “Too red”')).toBeVisible();
    await page.getByRole('link', { name: /frame 36, Ada: “Less red/ }).click();
    await expect(page.getByRole('slider', { name: 'Frame' })).toHaveAttribute('aria-valuenow', '36');
    await expect(page.locator('.view-note')).toContainText('Ada: Less red on the handle');
    await d.number('Hue', '30');
    await expect(cell).toContainText('changed since sent back');
    await suitcase.getByRole('button', { name: 'Approve' }).click();
    // what was sent is approved, and that is no longer what is there
    await expect(cell).toContainText('changed since approved');
    await client.close();
  });

  await test.step('the report has a row for each piece in each shot', async () => {
    await d.stage('Line-up');
    await page.getByRole('button', { name: 'Report' }).click();
    let made: Download | undefined;
    page.once('download', (file) => (made = file));
    await page.getByRole('menuitem', { name: /PDF/ }).click();
    await finished(
      () => page.getByRole('button', { name: /^(Report|Picture \d+ of)/ }).innerText(),
      () => made !== undefined,
    );
    const pdf = made!;
    const text = execFileSync('pdftotext', ['-layout', await pdf.path(), '-'], { encoding: 'utf8' });
    expect(text).toContain('Slow Morning');
    expect(text).toContain('Less red on the handle (Ada)');
    // a page for each colourway at the least, and a picture before and after of each of the nine
    expect(text.split('\f').length - 1).toBeGreaterThanOrEqual(3);
    const images = execFileSync('pdfimages', ['-list', await pdf.path()], { encoding: 'utf8' });
    expect(images.split('\n').filter((line) => / image /.test(line)).length).toBeGreaterThanOrEqual(18);
    await page.getByRole('button', { name: 'Report' }).click();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('menuitem', { name: /CSV/ }).click(),
    ]);
    const lines = readFileSync(await download.path(), 'utf8')
      .trim()
      .split('\r\n');
    // nine isolated, in three colourways
    expect(lines).toHaveLength(1 + 9 * 3);
    expect(lines[0]).toContain('ΔE00');
  });

  await test.step('two colourways leave as OpenEXR and VC-3, with mattes, and other programs read them', async () => {
    await d.stage('Deliver');
    await page.getByRole('checkbox', { name: 'Plum' }).check();
    for (const box of await page.locator('.shot-picks .ant-checkbox-wrapper').all())
      if ((await box.innerText()).includes('1 Platform (2)') !== (await box.locator('input').isChecked()))
        await box.click();
    await page.getByLabel('Through the look').uncheck();
    const known = (await d.json<unknown[]>('/deliveries')).length;
    let asked = known;
    for (const [format, button, files] of [
      ['OpenEXR sequence, half float', 'Render 1 shot in 2 colourways', 2],
      ['VC-3 movie, 10 bit 4:4:4', 'Render 1 shot in 2 colourways', 2],
      ['Mattes, one OpenEXR a frame', 'Render 1 shot in 2 colourways', 1],
    ] as const) {
      await page.getByRole('combobox', { name: 'Format', exact: true }).click();
      const wanted = page.locator('.ant-select-item-option').filter({ hasText: new RegExp(`^${format}$`) });
      // the list draws only what is in sight: down from the one that is chosen
      for (let down = 0; down < 20 && !(await wanted.isVisible()); down++) await page.keyboard.press('ArrowDown');
      await wanted.click();
      await page.getByRole('button', { name: button }).click();
      asked += files;
      await expect.poll(async () => (await d.json<unknown[]>('/deliveries')).length).toBe(asked);
    }
    await d.rendered(asked);
    const all = await d.json<{ id: string; preset: string; colourwayName: string }[]>('/deliveries');
    const pathOf = (preset: string, colourway: string) =>
      d.download(all.find((x) => x.preset === preset && x.colourwayName === colourway)!.id, work());
    const count =
      'ffprobe -v error -select_streams v:0 -count_frames -show_entries stream=codec_name,nb_read_frames -of csv=p=0';
    const pictures: Buffer[] = [];
    for (const colourway of ['Retail', 'Plum']) {
      const film = await pathOf('vc3', colourway);
      expect(execFileSync('sh', ['-c', `${count} ${film}`], { encoding: 'utf8' }).trim()).toBe('dnxhd,12');
      const frames = work(colourway);
      execFileSync('unzip', ['-q', await pathOf('exrHalf', colourway), '-d', frames]);
      expect(readdirSync(frames)).toHaveLength(12);
      // one pixel of the suitcase, in linear light
      const at = words('-vf crop=1:1:440:500 -frames:v 1 -f rawvideo -pix_fmt gbrpf32le -');
      pictures.push(
        execFileSync('ffmpeg', [...words('-v error -i'), join(frames, readdirSync(frames).sort()[0]!), ...at]),
      );
    }
    const [retail, plum] = pictures.map((bytes) => [8, 0, 4].map((from) => bytes.readFloatLE(from)));
    // marigold is red and green, plum is red and blue
    expect(retail![1]).toBeGreaterThan(1.5 * retail![2]!);
    expect(plum![2]).toBeGreaterThan(plum![1]!);
    const mattes = work('mattes');
    execFileSync('unzip', ['-q', await pathOf('matteExr', 'Retail'), '-d', mattes]);
    expect(readdirSync(mattes)).toHaveLength(12);
  });

  await test.step('the project is saved to a zip, and opened from it in a second installation', async () => {
    const before = await d.document();
    await page.goto(server.url);
    await page.getByRole('button', { name: 'More of Slow Morning', exact: true }).click();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('menuitem', { name: 'Save to a zip, with its footage' }).click(),
    ]);
    await download.saveAs(work('spot.zip'));
    expect(download.suggestedFilename()).toBe('Slow-Morning.zip');
    await page.goto(second.url);
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      page.getByRole('button', { name: 'Open a zip' }).click(),
    ]);
    await chooser.setFiles(work('spot.zip'));
    await expect(rowOf(page, '1 Platform (2)')).toBeVisible();
    const there = new Driver(page, second);
    const after = await there.document();
    expect(after.sightings).toHaveLength(before.sightings.length);
    expect(after.shots.map((s) => s.value.name)).toEqual(before.shots.map((s) => s.value.name));
    expect(after.shots[0]!.value.id).not.toBe(before.shots[0]!.value.id);
    // what was said came with it: approved, and changed since
    const cell = page.getByRole('button', { name: /^1 Platform \(2\)/ });
    await expect(cell).toContainText('changed since approved');
    // the long file came with it
    await finished(
      async () => Object.values((await there.document()).proxies),
      (proxies) => proxies.every((p) => p.state === 'done'),
    );
  });
  expect(errors).toEqual([]);
});
