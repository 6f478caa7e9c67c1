// `npm run bench`: prints the rows of bench/README.md. Needs ffmpeg; the browser rows need MELLOW_TEST_DATABASE_URL too.
import { cpus, totalmem } from 'node:os';
import { benchBrowser } from './browser.ts';
import { benchKeyAndRecolour } from './core.ts';
import { benchMattes } from './matte.ts';

console.log(`${cpus().length} × ${cpus()[0]!.model}, ${Math.round(totalmem() / 2 ** 30)} GB, Node ${process.version}`);
const core = benchKeyAndRecolour();
console.log(`| range key + recolour + blend, 1280×720, 8 bit | ${core.oursMs.toFixed(1)} ms | ffmpeg hsvkey + huesaturation ${core.ffmpegMs.toFixed(1)} ms | ${core.ratio.toFixed(2)} | ≤ 0.7 |`);
for (const { work, ms, ratio, against } of benchMattes()) console.log(`| ${work}, 1280×720 | ${ms.toFixed(1)} ms | ${against ?? ''} | ${ratio?.toFixed(2) ?? ''} | ${against && /^(σ|\+)/.test(against) ? '≤ 1.2' : ''} |`);
if (process.env.MELLOW_TEST_DATABASE_URL) {
  const b = await benchBrowser();
  console.log(`| control moved → picture, 960×540, ${b.moves} pictures | median ${b.medianMs.toFixed(0)} ms, 90 % ${b.p90Ms.toFixed(0)} ms | | | ≤ 100, aim 50 |`);
  console.log(`| playback, 960×540 | ${b.playbackFps} fps, ${b.dropped} dropped | the shot's 24 fps | | none dropped |`);
}
