// Prints how near each way of recolouring comes to the true re-renders, as rows of a table: npm run demo:judge
import type { LinearPlanes } from '../../packages/core/src/index.ts';
import { throughCamera } from './camera.ts';
import { floorError } from './floor.ts';
import { errorsOf, grainOf, ssimOf } from './judge.ts';
import { PROGRAMS, recolouredStills } from './methods.ts';
import { carriedColours } from './lights.ts';
import { cases, cleanCases, STILL_SIZE, type Case } from './stills.ts';

const isSolid = (a: number) => a >= 0.98;
const isEdge = (a: number) => a > 0.02 && a < 0.98;
const { width } = STILL_SIZE;
type Floor = ReturnType<typeof floorError>;
const pairsOf = ({ frames }: Case, results: readonly LinearPlanes[]) =>
  frames.map(({ truth, alpha }, f) => ({ result: results[f]!, truth, alpha }));
type Pairs = ReturnType<typeof pairsOf>;
const at = (pairs: Pairs, where: (alpha: number) => boolean) => {
  const { mean, p95 } = errorsOf(pairs, where);
  return `${mean.toFixed(2)} / ${p95.toFixed(1)}`;
};
const mean = (pairs: Pairs, of: (pair: Pairs[number]) => number) =>
  pairs.reduce((sum, pair) => sum + of(pair), 0) / pairs.length;
const ssim = (pairs: Pairs) =>
  mean(pairs, (p) => ssimOf(p.result, p.truth, p.alpha, width))
    .toFixed(3)
    .slice(1);
const grain = (pairs: Pairs) => mean(pairs, (p) => grainOf(p.result, p.truth, p.alpha, width));
const row = (cells: readonly string[]) => console.log(`| ${cells.join(' | ')} |`);
const head = (cells: readonly string[]) => {
  row(cells);
  row(cells.map(() => '---'));
};
/** Pieces that stand on a floor whose bounced light was rendered. */
const FLOORS = ['shot-1-platform suitcase', 'shot-2-cafe suitcase', 'shot-3-street scooter'];
const label = (of: Case) => `${of.name}${of.isForJudging ? ' ★' : ''}`;

const all = [...cases()];
head(['', ...Object.keys(PROGRAMS), 'the camera alone', 'edge', 'edge, the camera alone', 'grain']);
for (const of of all) {
  const pairs = Object.values(PROGRAMS).map((programOf) => pairsOf(of, recolouredStills(of, programOf(of))));
  const seen = pairsOf(of, await throughCamera(of));
  const best = pairs.at(-1)!;
  row([
    label(of),
    ...pairs.map((p) => `${at(p, isSolid)} / ${ssim(p)}`),
    at(seen, isSolid),
    at(best, isEdge),
    at(seen, isEdge),
    (grain(best) / grain(seen)).toFixed(2),
  ]);
}
console.log('');
head(['without a camera', 'match', 'repaint', 'edge, match', 'edge, repaint']);
for (const of of cleanCases(all)) {
  const [match, repaint] = (['match', 'repaint'] as const).map((method) =>
    pairsOf(of, recolouredStills(of, PROGRAMS[method](of))),
  ) as [Pairs, Pairs];
  row([label(of), at(match, isSolid), at(repaint, isSolid), at(match, isEdge), at(repaint, isEdge)]);
}
console.log('');
head(['the marked floor, without a camera', 'nothing done', 'bounce', 'its squares, nothing done', 'bounce']);
for (const of of cleanCases(all)) {
  if (!FLOORS.includes(`${of.shot} ${of.piece}`)) continue;
  const program = PROGRAMS.match(of);
  const [nothing, bounce] = [0, 2 / 3].map((amount) => floorError(of, program, amount)) as [Floor, Floor];
  const cells = [nothing.pixels, bounce.pixels, nothing.squares, bounce.squares];
  row([label(of), ...cells.map((v) => v.toFixed(2))]);
}
console.log('');
const carried = carriedColours(all);
head(['spread of the true suitcase', 'as filmed', ...Object.keys(carried[0]!.spread)]);
for (const { paint, asFilmed, spread } of carried)
  row([paint, asFilmed.toFixed(2), ...Object.values(spread).map((v) => v.toFixed(2))]);
