// Loads the demo project into an empty database: the shots, the pieces and their requirements, the scarf finished in
// shot 1, the suitcase still to do. Through the same functions as a user's edits, so it is history like any other.
import { randomUUID } from 'node:crypto';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import {
  type ChangeId,
  type ColourwayId,
  type Edit,
  type Piece,
  type PieceId,
  type ProjectId,
  type RecipeId,
  type RequirementId,
  type Sighting,
  type SightingId,
  NO_FINER,
} from '@mellow/contract';
import { labFromHex } from '@mellow/core';
import { addShots } from '../packages/server/src/jobs/addShots.ts';
import { readConfig } from '../packages/server/src/config.ts';
import { applyChange } from '../packages/server/src/db/changes.ts';
import { colourways, projects, shots } from '../packages/server/src/db/entities.ts';
import { prepareDatabase } from '../packages/server/src/db/migrate.ts';
import { inTransaction, openPool } from '../packages/server/src/db/pool.ts';
import { scheduleStaleMeasurements } from '../packages/server/src/jobs/measureWork.ts';
import { importFiles } from '../packages/server/src/media/importMedia.ts';
import { openStore } from '../packages/server/src/media/store.ts';

/** Key, shape and recolour of the finished example, as a colorist left them. */
const off = { on: true, lo: 0, hi: 1, softLo: 0, softHi: 0 };
const SCARF_KEY = {
  hue: { ...off, lo: 14, hi: 40, softLo: 12, softHi: 8 },
  chroma: { ...off, lo: 0.1, hi: 0.3, softLo: 0.06, softHi: 0.05 },
  lightness: { ...off, lo: 0.1, hi: 0.85, softLo: 0.08, softHi: 0.1 },
};
const SCARF_SHAPE = { form: 'rectangle' as const, cx: 720, cy: 240, width: 260, height: 300, turnDeg: 0 };
const SCARF_SHIFT = { exposureStops: 0, hueDeg: -11, saturation: 0.9, density: 0.12 };
const SCARF_HEX = '#974246';

const config = readConfig(process.env);
const pool = openPool(config.databaseUrl);
await prepareDatabase(pool, config.databaseUrl);
const { rows } = await pool.query<{ n: string }>('select count(*) as n from project');
if (rows[0]!.n === '0') await seed();
await pool.end();

async function seed(): Promise<void> {
  console.log('Loading the demo project …');
  const store = openStore(config.mediaRoot);
  const projectId = randomUUID() as ProjectId;
  const [retail, plum, fern] = [randomUUID(), randomUUID(), randomUUID()] as ColourwayId[];
  await inTransaction(pool, async (db) => {
    await projects.insert(db, { id: projectId, name: 'Slow Morning', tolerance: 1, referenceShotId: null }, 1);
    await colourways.insert(db, { id: retail!, projectId, name: 'Retail', position: 0 }, 1);
    await colourways.insert(db, { id: plum!, projectId, name: 'Plum', position: 1 }, 1);
    await colourways.insert(db, { id: fern!, projectId, name: 'Fern', position: 2 }, 1);
  });
  const media = join(import.meta.dirname, 'media');
  const files = readdirSync(media)
    .filter((f) => /^shot-\d-\w+\.mp4$/.test(f))
    .sort();
  const incoming = files.map((name) => ({ path: join(media, name), name }));
  const imported = await importFiles(pool, store, incoming, { keep: true });
  if (imported.refused.length > 0) throw new Error(imported.refused.map((r) => r.reason).join(' '));
  const { shotIds } = await addShots({ pool, store }, projectId, imported.media, 'demo');
  const change = (label: string, edits: Edit[]) =>
    applyChange(pool, projectId, { id: randomUUID() as ChangeId, label, edits }, 'demo');

  const names: Record<string, string> = {
    'shot-1': '1 Platform',
    'shot-2': '2 Café',
    'shot-3': '3 Street',
    'shot-4': '4 Turn',
    'shot-5': '5 Gate',
  };
  const reel = await shots.listByProject(pool, projectId);
  await change(
    'Name the shots',
    reel.map(({ value, revision }) => ({
      kind: 'shot',
      id: value.id,
      revision,
      value: { ...value, name: names[value.name.slice(0, 6)] ?? value.name },
    })),
  );
  await change('Take the platform as reference', [
    {
      kind: 'project',
      id: projectId,
      revision: 1,
      value: { id: projectId, name: 'Slow Morning', tolerance: 1, referenceShotId: shotIds[0]! },
    },
  ]);

  const [suitcase, scarf, scooter, lantern] = [randomUUID(), randomUUID(), randomUUID(), randomUUID()] as PieceId[];
  const piece = (id: PieceId, name: string, kind: Piece['kind'], position: number): Edit => ({
    kind: 'piece',
    id,
    revision: null,
    value: { id, projectId, name, kind, position },
  });
  await change('Name the pieces', [
    piece(suitcase!, 'Lark suitcase', 'product', 0),
    piece(scarf!, 'Scarf', 'garment', 1),
    piece(scooter!, 'Scooter', 'vehicle', 2),
    piece(lantern!, 'Lantern', 'prop', 3),
  ]);
  const require = (pieceId: PieceId, colourwayId: ColourwayId, name: string, hex: string): Edit => {
    const id = randomUUID() as RequirementId;
    return {
      kind: 'requirement',
      id,
      revision: null,
      value: { id, projectId, pieceId, colourwayId, name, lab: labFromHex(hex)!, illuminant: 'D65', tolerance: null },
    };
  };
  await change('State the colours', [
    require(suitcase!, retail!, 'Marigold', '#d99a2b'),
    require(suitcase!, plum!, 'Plum', '#6d3a66'),
    require(suitcase!, fern!, 'Fern', '#4f8a4b'),
    require(scarf!, retail!, 'Second dye lot', SCARF_HEX),
    require(scooter!, retail!, 'Oxblood', '#6a2320'),
    require(lantern!, retail!, 'Petrol blue', '#2f5a6e'),
  ]);

  // the finished example: the scarf of shot 1, carried to the dye lot of the pick-up
  const sightingId = randomUUID() as SightingId;
  const recipeId = randomUUID() as RecipeId;
  const layers: Sighting['layers'] = [
    {
      id: randomUUID(),
      name: 'Madder red',
      kind: 'range',
      on: true,
      mode: 'add',
      invert: false,
      strength: 1,
      picks: [],
      key: SCARF_KEY,
    },
    {
      id: randomUUID(),
      name: 'Round the bench back',
      kind: 'shape',
      on: true,
      mode: 'within',
      invert: false,
      strength: 1,
      geometry: SCARF_SHAPE,
      feather: { innerPx: 2, outerPx: 6, falloff: 'smooth' },
    },
  ];
  await change('Isolate the scarf', [
    {
      kind: 'sighting',
      id: sightingId,
      revision: null,
      value: {
        id: sightingId,
        projectId,
        pieceId: scarf!,
        shotId: shotIds[0]!,
        layers,
        cleanUp: null,
        spill: null,
        animated: {},
        steadyFrames: 0,
        trims: {},
        body: null,
      },
    },
  ]);
  await change('Recolour the scarf', [
    {
      kind: 'recipe',
      id: recipeId,
      revision: null,
      value: {
        id: recipeId,
        projectId,
        pieceId: scarf!,
        colourwayId: retail!,
        match: { long: 1, middle: 1, short: 1 },
        repaint: { on: false, sheen: 1 },
        finer: NO_FINER,
        shift: SCARF_SHIFT,
        strength: 1,
        animated: {},
      },
    },
  ]);
  await scheduleStaleMeasurements(pool, projectId);
}
