// `backup FOLDER` and `restore FOLDER`, as the scripts call them: DATABASE_URL and MELLOW_MEDIA say of what.
import { resolve } from 'node:path';
import { VERSION } from '../app.ts';
import { readConfig } from '../config.ts';
import { backUp } from './backup.ts';
import { restore } from './restore.ts';

/** How often what has been done is said, ms. */
const SAY_MS = 2000;

async function main(): Promise<void> {
  const [what, folder] = process.argv.slice(2);
  if ((what !== 'backup' && what !== 'restore') || !folder) throw new Error('Name a folder: npm run backup -- FOLDER');
  const { databaseUrl, mediaRoot } = readConfig(process.env);
  const ended = new AbortController();
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => ended.abort());
  const { signal } = ended;
  const own = { databaseUrl, mediaRoot, signal };
  const path = resolve(folder);
  let last = 0;
  const say = (text: string) => {
    const now = Date.now();
    if (now - last < SAY_MS) return;
    last = now;
    console.log(text);
  };
  if (what === 'backup') {
    const onProgress = (files: number, bytes: number) => say(`${files} files, ${Math.round(bytes / 1e6)} MB …`);
    const { files, bytes } = await backUp({ ...own, to: path, program: VERSION, onProgress });
    console.log(`Backed up to ${path}: the database and ${files} files, ${Math.round(bytes / 1e6)} MB.`);
  } else {
    const onProgress = (done: string, files: number, of: number) => say(`${files} of ${of} files ${done} …`);
    const { at } = await restore({ ...own, from: path, onProgress });
    console.log(`Restored as it was at ${at}. Start it with npm start.`);
  }
}

await main().catch((error: unknown) => {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
  process.exit(1);
});
