// What is burnt in, against the same words given to ffmpeg in files, where nothing has to be escaped.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { words } from '../media/words.ts';
import { burnInFilters, filterValue } from './burnIn.ts';
import type { Outgoing } from './presets/output.ts';

const work = mkdtempSync(join(tmpdir(), 'mellow-burn-'));
afterAll(() => rmSync(work, { recursive: true, force: true }));
const font = createRequire(import.meta.url).resolve('dejavu-fonts-ttf/ttf/DejaVuSans.ttf');
const media = { firstFrame: 98, timecode: '01:00:03:23', fps: { num: 24, den: 1 } } as Outgoing;

/** The pixels of three grey frames that were drawn over. */
const drawn = (filters: string): Buffer =>
  execFileSync('ffmpeg', [
    ...words('-v error -f lavfi -i'),
    `color=gray:size=640x120:rate=24,format=gray${filters}`,
    ...words('-frames:v 3 -f rawvideo -'),
  ]);
/** The same by hand: a name, and on each frame its timecode and number. */
function byHand(name: string, codes: readonly string[], numbers: readonly number[]): Buffer {
  const look = 'fontcolor=white:fontsize=h/26:box=1:boxcolor=black@0.6:boxborderw=4:y=h-th-12:expansion=none';
  let files = 0;
  const text = (value: string, x: string, more = '') => {
    const file = join(work, `${files++}.txt`);
    writeFileSync(file, value);
    return `,drawtext=fontfile=${filterValue(font)}:textfile=${filterValue(file)}:x=${x}:${look}${more}`;
  };
  const on = (n: number) => `:enable=eq(n\\,${n})`;
  return drawn(
    text(name, '12') +
      codes.map((code, n) => text(code, '(w-tw)/2', on(n))).join('') +
      numbers.map((number, n) => text(String(number), 'w-tw-12', on(n))).join(''),
  );
}

it.each(['Bar · Main', 'Café “7”: 50 %', "it's [a]; b, c=d", 'back\\slash %{frame_num} $x', "'''", '\\\\:'])(
  'the name %s, the timecode and the number of each frame',
  (name) => {
    const codes = ['01:00:03:23', '01:00:04:00', '01:00:04:01'];
    expect(drawn(burnInFilters({ ...media, burnIn: name }))).toEqual(byHand(name, codes, [98, 99, 100]));
  },
);
it('only the number where footage has no timecode, and nothing where nothing is wanted', () => {
  expect(drawn(burnInFilters({ ...media, timecode: null, burnIn: 'Bar' }))).toEqual(byHand('Bar', [], [98, 99, 100]));
  expect(burnInFilters(media)).toBe('');
});
it('timecode that drops numbers, where it does', () => {
  const dropping = { ...media, timecode: '00:00:59;28', fps: { num: 30_000, den: 1001 }, burnIn: 'Bar' };
  // SMPTE ST 12-1, 9.3: the two first numbers of a minute are left out
  const codes = ['00:00:59;28', '00:00:59;29', '00:01:00;02'];
  expect(drawn(burnInFilters(dropping))).toEqual(byHand('Bar', codes, [98, 99, 100]));
});
