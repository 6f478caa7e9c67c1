// Puts what a run of all benchmarks has printed into bench/README.md, in place of the run before.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const README = join(import.meta.dirname, 'README.md');
const [BEGIN, END] = ['<!-- rows of one run: begin -->', '<!-- rows of one run: end -->'];
const HEAD = '| work | ours | against | ratio | wanted |\n| --- | --- | --- | --- | --- |\n';

/** Throws where the places to write between are not there. */
export function writeRows(machine: string, rows: string): void {
  const before = readFileSync(README, 'utf8');
  const [from, to] = [before.indexOf(BEGIN), before.indexOf(END)];
  if (from < 0 || to < from) throw new Error(`bench/README.md has no place for rows: “${BEGIN}” … “${END}”.`);
  const day = new Date().toISOString().slice(0, 10);
  const written = `${BEGIN}\n\nMeasured ${day} on ${machine}, in one run:\n\n${HEAD}${rows.trim()}\n\n`;
  writeFileSync(README, before.slice(0, from) + written + before.slice(to));
}
