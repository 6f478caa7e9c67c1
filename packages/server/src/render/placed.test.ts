import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeEach, expect, it } from 'vitest';
import { place } from './placed.ts';

const work = mkdtempSync(join(tmpdir(), 'mellow-placed-'));
const outbox = join(work, 'outbox');
beforeEach(() => rmSync(outbox, { recursive: true, force: true }));
afterAll(() => rmSync(work, { recursive: true, force: true }));

function film(text: string) {
  const path = join(work, 'film.mkv');
  writeFileSync(path, text);
  return { path, isFolder: false, fileName: 'Bar_Plum.mkv', projectName: 'Spring: “Spot”' };
}
function frames(text: string) {
  const path = join(work, 'frames');
  mkdirSync(path, { recursive: true });
  for (const n of [1, 2]) writeFileSync(join(path, `Bar.00000${n}.png`), `${text}${n}`);
  return { path, isFolder: true, fileName: 'Bar_Plum.zip', projectName: 'Spot' };
}

it('a file lies under its own name in a folder of the project’s, and the next beside it', async () => {
  const paths = [await place({ outbox }, film('one')), await place({ outbox }, film('two'))];
  expect(paths).toEqual(['Spring_ “Spot”/Bar_Plum.mkv', 'Spring_ “Spot”/Bar_Plum (2).mkv']);
  expect(paths.map((path) => readFileSync(join(outbox, path), 'utf8'))).toEqual(['one', 'two']);
  expect(readdirSync(join(outbox, 'Spring_ “Spot”')).filter((name) => name.startsWith('.'))).toEqual([]);
});
it('a sequence lies there as a folder of its frames, and the next beside it', async () => {
  const paths = [await place({ outbox }, frames('a')), await place({ outbox }, frames('b'))];
  expect(paths).toEqual(['Spot/Bar_Plum', 'Spot/Bar_Plum (2)']);
  const first = (path: string) => readFileSync(join(outbox, path, 'Bar.000001.png'), 'utf8');
  expect(paths.map(first)).toEqual(['a1', 'b1']);
});
it('a name that leads out of the folder does not', async () => {
  const path = await place({ outbox }, { ...film('x'), projectName: '../../etc' });
  expect(path).toBe('etc/Bar_Plum.mkv');
  expect(await place({ outbox }, { ...film('x'), projectName: '..' })).toBe('project/Bar_Plum.mkv');
});
it('what cannot be copied leaves nothing', async () => {
  await expect(place({ outbox }, { ...film('x'), path: join(work, 'gone') })).rejects.toThrow(/ENOENT/);
  expect(readdirSync(join(outbox, 'Spring_ “Spot”'))).toEqual([]);
});
