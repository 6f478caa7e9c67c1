// What the demo opens with: its mattes against the renderer's own, and that nothing is left undone.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import {
  frameMatte,
  knownMotions,
  makeTables,
  sightingAt,
  sourceFrame,
  type AnimatedSighting,
  type FoundFrame,
  type StoredTrack,
} from '@mellow/core';
import { compareMattes, readGbr16, readGrey } from '../e2e/reading.ts';
import { FOOTAGE } from './footage.ts';

interface Kept {
  sightings: (AnimatedSighting & { pieceId: string; shotId: string; trims: object; cleanUp: never; state: string })[];
  tracks: (StoredTrack & { id: string })[];
  recipes: { pieceId: string; colourwayId: string }[];
  runs: { runId: string; frames: FoundFrame[] }[];
}
const kept = JSON.parse(readFileSync(join(import.meta.dirname, 'finished.json'), 'utf8')) as Kept;
const motions = new Map(
  kept.tracks.map((t) => [t.id, knownMotions(t, (id) => kept.runs.find((r) => r.runId === id)?.frames ?? [])]),
);
/** Size at which whole stacks are compared, half the footage's. */
const [W, H] = [640, 360];
const FRAMES = [6, 24, 42];
const MATTES: Record<string, string> = {
  'piece: Lark suitcase': 'suitcase',
  'piece: Scarf': 'scarf',
  'piece: Scooter': 'scooter',
  'piece: Lantern': 'lantern',
};
const CHOSEN = `select=${FRAMES.map((f) => `eq(n\\,${f})`).join('+')}`;
const TO_RGB =
  `zscale=w=${W}:h=${H}:filter=bicubic:matrixin=709:rangein=limited:matrix=gbr:range=full:primariesin=709:` +
  'primaries=709:transferin=709:transfer=709,format=gbrp16le';

describe('the finished film', () => {
  it('has every piece in every shot that shows it, matched and trimmed in all colourways', () => {
    expect(kept.sightings.map((s) => `${s.pieceId} ${s.shotId}`).sort()).toEqual([
      'piece: Lantern shot: 5 Gate',
      'piece: Lark suitcase shot: 1 Platform',
      'piece: Lark suitcase shot: 2 Café',
      'piece: Lark suitcase shot: 4 Turn',
      'piece: Scarf shot: 1 Platform',
      'piece: Scarf shot: 5 Gate',
      'piece: Scooter shot: 3 Street',
    ]);
    expect(kept.recipes).toHaveLength(12);
    for (const { trims, state } of kept.sightings)
      expect([Object.keys(trims).length, state === 'rough']).toEqual([3, false]);
  });
  it.each(kept.sightings.map((s) => [s.pieceId.slice(7), s.shotId.slice(6), s] as const))(
    'isolates the %s in %s as the renderer does',
    (_piece, _shot, sighting) => {
      const file = FOOTAGE[sighting.shotId]!;
      const truth = readGrey(join(import.meta.dirname, `truth/${file}.${MATTES[sighting.pieceId]}.mkv`), W, H);
      const pictures = readGbr16(join(import.meta.dirname, `media/${file}.mp4`), W, H, `${CHOSEN},${TO_RGB}`);
      const tables = makeTables();
      const ious = pictures.map(([g, b, r], k) => {
        const render = { ...sighting, cleanUp: sighting.cleanUp ?? undefined, spill: undefined, ...kept.recipes[0]! };
        const { layers, cleanUp } = sightingAt(render, FRAMES[k]!, motions);
        const source = sourceFrame({ width: W, height: H, r: r!, g: g!, b: b! }, 'rec709', 0.5, tables);
        const alpha = frameMatte(source, layers, cleanUp);
        const wanted = Float32Array.from(truth[FRAMES[k]!]!, (v) => v / 255);
        return compareMattes(alpha, wanted).iou;
      });
      expect(ious.reduce((a, b) => a + b) / ious.length).toBeGreaterThan(0.945);
      expect(Math.min(...ious)).toBeGreaterThan(0.9);
    },
  );
});
