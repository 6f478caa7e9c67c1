// An outage of the database while somebody works: `npm run outage -- [MINUTES]`. A page has a project open; the
// database cannot be reached for ten minutes; all that time pieces are made. Told: whether each of them is there
// afterwards, in the order in which they were made, and how often an edit is told to one who listens.
import { once } from 'node:events';
import { connect, createServer, type AddressInfo, type Socket } from 'node:net';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { chromium } from '@playwright/test';
import { CHROMIUM } from '../e2e/browser.ts';
import { startServer } from '../e2e/server.ts';

const MINUTES = Number(process.argv[2] ?? 10);
/** Between two pieces, ms. */
const EVERY_MS = 8000;
const pg = createRequire(join(import.meta.dirname, '../packages/server/package.json'))('pg') as typeof import('pg');

/** All that goes to the database goes through here, and can be cut off. */
const database = new URL(process.env.MELLOW_TEST_DATABASE_URL!);
const through = new Set<Socket>();
const relay = createServer((socket) => {
  const onward = connect(Number(database.port), database.hostname);
  for (const [one, other] of [
    [socket, onward],
    [onward, socket],
  ] as const) {
    through.add(one);
    one.pipe(other);
    one.on('error', () => other.destroy());
    one.on('close', () => {
      other.destroy();
      through.delete(one);
    });
  }
});
const listen = async (port: number): Promise<void> => {
  relay.listen(port, '127.0.0.1');
  await once(relay, 'listening');
};
await listen(0);
const { port } = relay.address() as AddressInfo;

const server = await startServer({}, { databasePort: port });
const browser = await chromium.launch(CHROMIUM);
const direct = new pg.Client({ connectionString: Object.assign(database, { pathname: `/${server.database}` }).href });
try {
  await server.rest();
  await direct.connect();
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(server.url);
  await page.getByRole('link', { name: 'Slow Morning', exact: true }).click();
  await page.locator('.viewport canvas[role="img"]').waitFor();
  const made: string[] = [];
  const make = async (): Promise<void> => {
    const name = `Piece ${made.length + 1}`;
    await page.keyboard.press('n');
    await page.getByRole('textbox', { name: 'Piece name' }).fill(name);
    await page.keyboard.press('Enter');
    await page.locator('.topbar').getByText(name, { exact: true }).waitFor();
    made.push(name);
  };
  await make();
  await page.getByText('saved', { exact: true }).waitFor();

  relay.close();
  for (const socket of through) socket.destroy();
  const until = Date.now() + MINUTES * 60_000;
  console.log(`the database is away for ${MINUTES} minutes`);
  while (Date.now() < until) {
    await make();
    await pause(EVERY_MS);
  }
  console.log(`away: ${made.length - 1} pieces made; the page says “${await page.locator('.saving').innerText()}”`);
  await listen(port);
  const back = Date.now();
  await page.getByText('saved', { exact: true }).waitFor({ timeout: 120_000 });
  console.log(`all is saved ${((Date.now() - back) / 1000).toFixed(1)} s after it is back`);

  const { rows: log } = await direct.query<{ label: string }>(
    `select label from change where label like '%Piece %' order by seq`,
  );
  const names = log.map((row) => /Piece \d+/.exec(row.label)?.[0]);
  const inOrder = JSON.stringify(names) === JSON.stringify(made);
  console.log(`${names.length} of ${made.length} pieces are in the log, ${inOrder ? 'in' : 'not in'} order`);

  const heard = await fetch(`${server.url}/api/projects/${page.url().split('/')[4]}/events`);
  let text = '';
  void (async () => {
    for await (const chunk of heard.body!.pipeThrough(new TextDecoderStream())) text += chunk;
  })().catch(() => undefined);
  await make();
  await page.getByText('saved', { exact: true }).waitFor();
  await pause(2000);
  console.log(`an edit is told ${text.split('event: change').length - 1} times to who listens`);
} finally {
  await direct.end();
  await browser.close();
  await server.close();
  relay.close();
}
