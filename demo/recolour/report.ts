// Prints how near each way of recolouring comes to the true re-renders, as rows of a table: npm run demo:judge
import { errorsOf, ssimOf } from './judge.ts';
import { PROGRAMS, recolouredStills } from './methods.ts';
import { carriedColours, WAYS } from './lights.ts';
import { cases, STILL_SIZE } from './stills.ts';

const isSolid = (a: number) => a >= 0.98;
const isEdge = (a: number) => a > 0.02 && a < 0.98;
console.log(`| | ${Object.keys(PROGRAMS).join(' | ')} | edge, match |`);
console.log(
  `|---|${Object.keys(PROGRAMS)
    .map(() => '---')
    .join('|')}|---|`,
);
for (const of of cases()) {
  let edge = '';
  const cells = Object.entries(PROGRAMS).map(([method, programOf]) => {
    const results = recolouredStills(of, programOf(of));
    const pairs = of.frames.map(({ truth, alpha }, f) => ({ result: results[f]!, truth, alpha }));
    const inside = errorsOf(pairs, isSolid);
    const ssim = pairs.reduce((s, p) => s + ssimOf(p.result, p.truth, p.alpha, STILL_SIZE.width), 0) / pairs.length;
    const at = (e: { mean: number; p95: number }) => `${e.mean.toFixed(2)} / ${e.p95.toFixed(1)}`;
    if (method === 'match') edge = at(errorsOf(pairs, isEdge));
    return `${at(inside)} / ${ssim.toFixed(3).slice(1)}`;
  });
  console.log(`| ${of.name}${of.isForJudging ? ' ★' : ''} | ${cells.join(' | ')} | ${edge} |`);
}
console.log(`\n| spread of the true suitcase | as filmed | ${Object.keys(WAYS).join(' | ')} |\n|---|---|---|---|`);
for (const { paint, asFilmed, spread } of carriedColours([...cases()]))
  console.log(
    `| ${paint} | ${asFilmed.toFixed(2)} | ${Object.keys(WAYS)
      .map((way) => spread[way]!.toFixed(2))
      .join(' | ')} |`,
  );
