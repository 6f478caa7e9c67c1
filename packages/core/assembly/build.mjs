// Compiles the kernels and writes them, inlined, where the core loads them from: `npm run kernels`.
import { Buffer } from 'node:buffer';
import { writeFile } from 'node:fs/promises';
import { fileURLToPath, URL } from 'node:url';
import asc from 'assemblyscript/asc';
import binaryen from 'binaryen';

const INLINED = fileURLToPath(new URL('../src/kernels/compiled.ts', import.meta.url));
const OPTIONS = '-O3 --converge --noAssert --runtime stub --enable simd'.split(' ');
const LINE = 100;
/** In nodes of the compiler's tree. */
const LARGEST_INLINED = 400;
const { Features } = binaryen;

/** Kernels share functions larger than the compiler inlines by itself; a call costs as much as what they do. */
function inlined(bytes) {
  const module = binaryen.readBinary(bytes);
  binaryen.setOptimizeLevel(3);
  binaryen.setShrinkLevel(0);
  binaryen.setFlexibleInlineMaxSize(LARGEST_INLINED);
  module.setFeatures(Features.MutableGlobals | Features.NontrappingFPToInt | Features.SignExt | Features.SIMD128);
  module.runPasses(['inlining-optimizing']);
  module.optimize();
  return module.emitBinary();
}

/** The module's bytes in base64, in lines. Throws what the compiler says. */
export async function compiled() {
  let bytes = new Uint8Array();
  const { error, stderr } = await asc.main(
    ['index.ts', '--baseDir', fileURLToPath(new URL('.', import.meta.url)), '--outFile', 'kernels.wasm', ...OPTIONS],
    { writeFile: (_name, contents) => void (bytes = contents) },
  );
  if (error) throw new Error(`${error.message}\n${stderr.toString()}`);
  const text = Buffer.from(inlined(bytes)).toString('base64');
  return Array.from({ length: Math.ceil(text.length / LINE) }, (_, i) => text.slice(i * LINE, (i + 1) * LINE));
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const lines = (await compiled()).map((line) => `  '${line}',\n`).join('');
  const head = '/** What assembly/ compiles to, in base64; written by assembly/build.mjs. */\n';
  await writeFile(INLINED, `${head}export const COMPILED = [\n${lines}].join('');\n`);
}
