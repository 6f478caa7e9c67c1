// Recolours against true re-renders, in paints that no method was tuned on; bars by what the piece and its light allow.
import { expect, it } from 'vitest';
import type { LinearPlanes, Program } from '../../packages/core/src/index.ts';
import { throughCamera } from './camera.ts';
import { floorError } from './floor.ts';
import { errorsOf, grainOf, ssimOf } from './judge.ts';
import { PROGRAMS, recolouredStills, type Method } from './methods.ts';
import { cases, cleanCases, STILL_SIZE, type Case } from './stills.ts';

/** Mean and 95th percentile of ΔE00, and the least SSIM of L*, by shot: mixed light, pale to dark, one light. */
const BARS: Record<string, [mean: number, p95: number, ssim: number]> = {
  'shot-1-platform suitcase': [1.6, 4, 0.975],
  'shot-1-platform scarf': [1.6, 4, 0.975],
  'shot-2-cafe suitcase': [2.5, 8, 0.96],
  'shot-3-street scooter': [2.5, 8, 0.92],
  'shot-4-turn suitcase': [1, 2.5, 0.98],
  'shot-5-gate scarf': [1.2, 3, 0.97],
  'shot-5-gate lantern': [3.2, 11, 0.75],
};
const judged = [...cases({ judgedOnly: true, frames: [1, 3] })];
const isSolid = (a: number) => a >= 0.98;
const isEdge = (a: number) => a > 0.02 && a < 0.98;
const { width } = STILL_SIZE;
const figures = (of: Case, method: Method) => figuresOf(of, PROGRAMS[method](of));
function figuresOf(of: Case, program: Program) {
  const results = recolouredStills(of, program);
  const pairs = of.frames.map(({ truth, alpha }, f) => ({ result: results[f]!, truth, alpha }));
  const ssims = pairs.map((p) => ssimOf(p.result, p.truth, p.alpha, width));
  return { ...errorsOf(pairs, isSolid), ssim: Math.min(...ssims), edge: errorsOf(pairs, isEdge) };
}

it.each(judged.map((c) => [c.name, c] as const))('%s comes as near as its light allows', (_, of) => {
  const [mean, p95, ssim] = BARS[`${of.shot} ${of.piece}`]!;
  const program = PROGRAMS.repaint(of);
  const repaint = figuresOf(of, program);
  expect(repaint.mean).toBeLessThan(mean);
  expect(repaint.p95).toBeLessThan(p95);
  expect(repaint.ssim).toBeGreaterThan(ssim);
  // where its split cannot be trusted a repaint is a match
  expect(program.sheen !== undefined).toBe(of.shot === 'shot-4-turn');
  if (program.sheen) expect(repaint.mean).toBeLessThan(0.75 * figures(of, 'match').mean);
});

it('the edges of pictures without a camera’s grain are recoloured once', () => {
  const edges: { mean: number; p95: number }[] = [];
  for (let k = 0; k < judged.length; k += 2) {
    const [first] = cleanCases(judged.slice(k, k + 2));
    edges.push(figures(first!, 'match').edge);
  }
  expect(edges).toHaveLength(7);
  expect(edges.reduce((sum, e) => sum + e.mean, 0) / edges.length).toBeLessThan(2.6);
  for (const { mean, p95 } of edges) {
    expect(mean).toBeLessThan(3.5);
    expect(p95).toBeLessThan(9);
  }
});

it('the grain of a result is that of a picture really painted so', async () => {
  const sand = judged.find((c) => c.name === '4-turn suitcase → sand')!;
  const seen = await throughCamera(sand);
  const grain = (results: readonly LinearPlanes[]) =>
    sand.frames.reduce((sum, { truth, alpha }, f) => sum + grainOf(results[f]!, truth, alpha, width), 0);
  const ratio = grain(recolouredStills(sand, PROGRAMS.match(sand))) / grain(seen);
  expect(ratio).toBeGreaterThan(0.8);
  expect(ratio).toBeLessThan(1.1);
});

it('a bounce brings the floor under the suitcase nearer to the true one by a fifth and more', () => {
  const [sand] = cleanCases(judged.filter((c) => c.shot === 'shot-1-platform' && c.piece === 'suitcase'));
  const program = PROGRAMS.match(sand!);
  const [done, nothing] = [floorError(sand!, program, USUAL), floorError(sand!, program, 0)];
  expect(done.pixels / nothing.pixels).toBeLessThan(0.8);
  expect(done.squares / nothing.squares).toBeLessThan(0.75);
});
/** A fifth of the change comes back from a floor: two thirds of the most a bounce gives. */
const USUAL = 2 / 3;
