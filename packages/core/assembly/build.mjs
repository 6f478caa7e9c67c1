// Compiles the kernels and writes them, inlined, where the core loads them from: `npm run kernels`.
import { Buffer } from 'node:buffer';
import { writeFile } from 'node:fs/promises';
import { fileURLToPath, URL } from 'node:url';
import asc from 'assemblyscript/asc';

const INLINED = fileURLToPath(new URL('../src/kernels/compiled.ts', import.meta.url));
const OPTIONS = '-O3 --converge --noAssert --runtime stub --enable simd'.split(' ');
const LINE = 100;

/** The module's bytes in base64, in lines. Throws what the compiler says. */
export async function compiled() {
  let bytes = new Uint8Array();
  const { error, stderr } = await asc.main(
    ['index.ts', '--baseDir', fileURLToPath(new URL('.', import.meta.url)), '--outFile', 'kernels.wasm', ...OPTIONS],
    { writeFile: (_name, contents) => void (bytes = contents) },
  );
  if (error) throw new Error(`${error.message}\n${stderr.toString()}`);
  const text = Buffer.from(bytes).toString('base64');
  return Array.from({ length: Math.ceil(text.length / LINE) }, (_, i) => text.slice(i * LINE, (i + 1) * LINE));
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const lines = (await compiled()).map((line) => `  '${line}',\n`).join('');
  const head = '/** What assembly/ compiles to, in base64; written by assembly/build.mjs. */\n';
  await writeFile(INLINED, `${head}export const COMPILED = [\n${lines}].join('');\n`);
}
