// What a frame of the demo's finished shots takes the first time round at the size of a proxy, stage by stage, on one
// core: all mattes with their clean-up, then recolours and codes, then the screen's.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  frameMatte,
  knownMotions,
  makeTables,
  renderFrame,
  sightingAt,
  sourceFrame,
  type AnimatedSighting,
  type FoundFrame,
  type Light,
  type StoredTrack,
  type Trim,
} from '../packages/core/src/index.ts';
import { onScreen } from '../packages/web/src/engine/screen.ts';
import { FOOTAGE } from '../demo/footage.ts';
import { readGbr16 } from '../e2e/reading.ts';

interface Finished {
  lights: { id: string; light: { matrix: Light } | null }[];
  sightings: (Omit<AnimatedSighting, 'trim' | 'cleanUp' | 'spill' | 'body'> & {
    pieceId: string;
    shotId: string;
    trims: Record<string, Trim>;
    cleanUp: AnimatedSighting['cleanUp'] | null;
    spill: AnimatedSighting['spill'] | null;
    body: AnimatedSighting['body'] | null;
  })[];
  tracks: (StoredTrack & { id: string })[];
  recipes: (Pick<AnimatedSighting, 'match' | 'repaint' | 'shift' | 'finer' | 'strength'> & {
    pieceId: string;
    colourwayId: string;
    animated: object;
  })[];
  runs: { runId: string; frames: FoundFrame[] }[];
}
const DEMO = join(import.meta.dirname, '../demo');
const [W, H] = [960, 540];
/** Every so many of a shot's 48 frames. */
const EVERY = 4;
const ROUNDS = 3;

export interface ShotResult {
  shot: string;
  pieces: number;
  /** Of one frame, median, ms of CPU. */
  matteMs: number;
  recolourMs: number;
  screenMs: number;
}
const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

export function benchShots(report: (result: ShotResult) => void): void {
  const kept = JSON.parse(readFileSync(join(DEMO, 'finished.json'), 'utf8')) as Finished;
  const found = (id: string) => kept.runs.find((r) => r.runId === id)?.frames ?? [];
  const motions = new Map(kept.tracks.map((t) => [t.id, knownMotions(t, found)]));
  const colourway = kept.recipes[0]!.colourwayId;
  const tables = makeTables();
  for (const [shot, file] of Object.entries(FOOTAGE)) {
    const light = kept.lights.find((l) => l.id === shot)?.light?.matrix;
    const sightings = kept.sightings
      .filter((s) => s.shotId === shot)
      .map(({ cleanUp, spill, body, trims, ...s }): AnimatedSighting => {
        const recipe = kept.recipes.find((r) => r.pieceId === s.pieceId && r.colourwayId === colourway)!;
        const animated = { ...s.animated, ...recipe.animated };
        const given = { cleanUp: cleanUp ?? undefined, spill: spill ?? undefined, body: body ?? undefined };
        return { ...s, ...recipe, ...given, animated, light, trim: trims[colourway], encoding: 'rec709' };
      });
    const filter = `select=not(mod(n\\,${EVERY})),scale=${W}:${H}:flags=area,format=gbrp16le`;
    const pictures = readGbr16(join(DEMO, `media/${file}.mp4`), W, H, filter);
    const times: { matte: number; recolour: number; screen: number }[] = [];
    for (let round = 0; round < ROUNDS; round++)
      pictures.forEach(([g, b, r], k) => {
        const at = sightings.map((s) => sightingAt(s, EVERY * k, motions));
        const codes = { width: W, height: H, r: r!, g: g!, b: b! };
        const source = sourceFrame(codes, 'rec709', W / 1280, tables);
        const start = performance.now();
        const mattes = at.map((s) => frameMatte(source, s.layers, s.cleanUp));
        const isolated = performance.now();
        const rendered = renderFrame(source, at, tables, (_s, i) => mattes[i]!);
        const recoloured = performance.now();
        onScreen(rendered.codes, 'rec709');
        const end = performance.now();
        times.push({ matte: isolated - start, recolour: recoloured - isolated, screen: end - recoloured });
      });
    const warm = times.slice(pictures.length);
    report({
      shot: shot.slice('shot: '.length),
      pieces: sightings.length,
      matteMs: median(warm.map((t) => t.matte)),
      recolourMs: median(warm.map((t) => t.recolour)),
      screenMs: median(warm.map((t) => t.screen)),
    });
  }
}
