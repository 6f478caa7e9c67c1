import { execFileSync } from 'node:child_process';
import { expect, it } from 'vitest';

/** A plain script, which has no types. */
const { serverEnv } = (await import(String(new URL('./serverEnv.mjs', import.meta.url)))) as {
  serverEnv: (env: NodeJS.ProcessEnv) => NodeJS.ProcessEnv;
};

/** Of 300 pieces of a megabyte every tenth is kept: prints by how much the process has grown, MB. */
const SCRIPT = `
  new Uint8Array(2 ** 20).fill(1);
  gc();
  const before = process.memoryUsage.rss();
  let pieces = Array.from({ length: 300 }, () => new Uint8Array(2 ** 20).fill(1));
  pieces = pieces.filter((_, i) => i % 10 === 0);
  for (let turn = 0; turn < 5; turn++) { gc(); await new Promise((done) => setImmediate(done)); }
  console.log((process.memoryUsage.rss() - before) / 2 ** 20, pieces.length);
`;
function grownMb(env: NodeJS.ProcessEnv): number {
  const said = execFileSync(process.execPath, ['--expose-gc', '--input-type=module', '-e', SCRIPT], { env });
  const [mb, pieces] = said.toString().split(' ').map(Number);
  expect(pieces).toBe(30);
  return mb!;
}

it('what a server has freed is the machine’s again, whatever lies between', () => {
  expect(grownMb(serverEnv({ PATH: process.env.PATH }))).toBeLessThan(60);
});
it('whoever runs it has the last word', () => {
  expect(serverEnv({ MALLOC_MMAP_THRESHOLD_: '65536', PORT: '1' })).toEqual({
    MALLOC_MMAP_THRESHOLD_: '65536',
    PORT: '1',
  });
});
