// Loads the demo into an empty database: one film twice, done and from the start. Through the same functions as a
// user's edits, so it is history like any other.
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
  type RequirementId,
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
import { DEMO, putFinished } from './finished.ts';

const NAMES: Record<string, string> = {
  'shot-1': '1 Platform',
  'shot-2': '2 Café',
  'shot-3': '3 Street',
  'shot-4': '4 Turn',
  'shot-5': '5 Gate',
};
const COLOURWAYS = ['Retail', 'Plum', 'Fern'];
const PIECES: [name: string, kind: Piece['kind']][] = [
  ['Lark suitcase', 'product'],
  ['Scarf', 'garment'],
  ['Scooter', 'vehicle'],
  ['Lantern', 'prop'],
];
/** The suitcase is sold in three colours; the rest of the film is the same for all markets. */
const REQUIRED: [piece: string, colourway: string, name: string, hex: string][] = [
  ['Lark suitcase', 'Retail', 'Marigold', '#d99a2b'],
  ['Lark suitcase', 'Plum', 'Plum', '#6d3a66'],
  ['Lark suitcase', 'Fern', 'Fern', '#4f8a4b'],
  ...COLOURWAYS.flatMap((colourway): typeof REQUIRED => [
    ['Scarf', colourway, 'Second dye lot', '#974246'],
    ['Scooter', colourway, 'Oxblood', '#6a2320'],
    ['Lantern', colourway, 'Petrol blue', '#2f5a6e'],
  ]),
];

const config = readConfig(process.env);
const pool = openPool(config.databaseUrl);
const store = openStore(config.mediaRoot);
await prepareDatabase(pool);
const { rows } = await pool.query<{ n: string }>('select count(*) as n from project');
if (rows[0]!.n === '0') {
  console.log('Loading the demo …');
  await film('Slow Morning, from the start');
  const done = await film('Slow Morning');
  await putFinished(pool, done);
  await scheduleStaleMeasurements(pool, done);
}
await pool.end();

/** A project with the film's shots, its pieces and the colours required of them; nothing is isolated. */
async function film(name: string): Promise<ProjectId> {
  const projectId = randomUUID() as ProjectId;
  const ways = new Map(COLOURWAYS.map((way) => [way, randomUUID() as ColourwayId]));
  await inTransaction(pool, async (db) => {
    await projects.insert(
      db,
      { id: projectId, name, tolerance: 1, referenceShotId: null, look: null, viewTable: null },
      1,
    );
    for (const [position, way] of COLOURWAYS.entries())
      await colourways.insert(db, { id: ways.get(way)!, projectId, name: way, position }, 1);
  });
  const media = join(import.meta.dirname, 'media');
  const files = readdirSync(media)
    .filter((f) => /^shot-\d-\w+\.mp4$/.test(f))
    .sort();
  const incoming = files.map((file) => ({ path: join(media, file), name: file }));
  const imported = await importFiles(pool, store, incoming, { take: 'leave' });
  if (imported.refused.length > 0) throw new Error(imported.refused.map((r) => r.reason).join(' '));
  const { shotIds } = await addShots({ pool, store }, projectId, imported.media, DEMO);
  const change = (label: string, edits: Edit[]) =>
    applyChange(pool, projectId, { id: randomUUID() as ChangeId, label, edits }, DEMO);

  const reel = await shots.listByProject(pool, projectId);
  await change(
    'Name the shots',
    reel.map(({ value, revision }) => ({
      kind: 'shot',
      id: value.id,
      revision,
      value: { ...value, name: NAMES[value.name.slice(0, 6)] ?? value.name },
    })),
  );
  await change('Take the platform as reference', [
    {
      kind: 'project',
      id: projectId,
      revision: 1,
      value: { id: projectId, name, tolerance: 1, referenceShotId: shotIds[0]!, look: null, viewTable: null },
    },
  ]);
  const pieces = new Map(PIECES.map(([piece]) => [piece, randomUUID() as PieceId]));
  await change(
    'Name the pieces',
    PIECES.map(([piece, kind], position): Edit => {
      const id = pieces.get(piece)!;
      return { kind: 'piece', id, revision: null, value: { id, projectId, name: piece, kind, position, partOf: null } };
    }),
  );
  await change(
    'State the colours',
    REQUIRED.map(([piece, way, required, hex]): Edit => {
      const id = randomUUID() as RequirementId;
      const of = { pieceId: pieces.get(piece)!, colourwayId: ways.get(way)! };
      const value = {
        id,
        projectId,
        ...of,
        name: required,
        lab: labFromHex(hex)!,
        tolerance: null,
        note: '',
        asInShotId: null,
        of: 'mean' as const,
      };
      return { kind: 'requirement', id, revision: null, value: { ...value, illuminant: 'D65' } };
    }),
  );
  return projectId;
}
