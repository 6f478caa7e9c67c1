// A project as the first version of all stored it, in a database of every earlier version: brought up to today it
// opens, is as it was, and can be undone to its beginning.
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { connect, createServer, type AddressInfo } from 'node:net';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { expect, it } from 'vitest';
import { LOCAL } from './author.ts';
import { stepHistory } from './stepHistory.ts';
import { migrationFiles, prepareDatabase } from './migrate.ts';
import { ownDatabase, type OwnDatabase } from '../testing/ownDatabase.ts';
import { inTransaction, openPool } from './pool.ts';
import { projectDocument } from './projects.ts';

const [project, media, shot, piece, colourway, requirement, recipe, sighting] = Array.from({ length: 8 }, () =>
  randomUUID(),
) as [string, string, string, string, string, string, string, string];

const flat = { on: false, lo: 0, hi: 1, softLo: 0, softHi: 0 };
const LAYERS = [
  {
    id: randomUUID(),
    name: 'Range key 1',
    kind: 'range',
    on: true,
    mode: 'add',
    invert: false,
    strength: 1,
    key: { hue: { on: true, lo: 350, hi: 380, softLo: 12, softHi: 12 }, chroma: flat, lightness: flat },
    picks: [{ sign: 'add', frame: 3, x0: 1, y0: 2, x1: 3, y1: 4, samples: [{ L: 0.5, a: 0.1, b: 0 }] }],
  },
  {
    id: randomUUID(),
    name: 'Rectangle 2',
    kind: 'shape',
    on: true,
    mode: 'within',
    invert: true,
    strength: 0.5,
    geometry: { form: 'rectangle', cx: 10, cy: 20, width: 30, height: 40, turnDeg: 5 },
    feather: { innerPx: 1, outerPx: 2, falloff: 'smooth' },
  },
];
const MEDIA = {
  id: media,
  sha256: 'a'.repeat(64),
  name: 'first.mov',
  kind: 'video',
  width: 64,
  height: 36,
  fps: { num: 24, den: 1 },
  frames: 5,
  codec: 'prores',
  pixelFormat: 'yuv422p10le',
  bitDepth: 10,
  range: 'limited',
  matrix: 'bt709',
  primaries: 'bt709',
  transfer: 'bt709',
  timecode: null,
  proposedEncoding: 'rec709',
  notes: [],
};
const SHIFT = { exposureStops: 0.5, hueDeg: 40, saturation: 1.2, density: 0.1 };
const NEUTRAL = { exposureStops: 0, hueDeg: 0, saturation: 1, density: 0 };
const RECIPE = { id: recipe, projectId: project, pieceId: piece, colourwayId: colourway, strength: 0.9 };
const SIGHTING = { id: sighting, projectId: project, pieceId: piece, shotId: shot };

/** Rows and a log of two changes, column by column as migration 1 made the tables. */
const ROWS: readonly (readonly [sql: string, values: readonly unknown[]])[] = [
  ['insert into project (id, name, tolerance, reference_shot_id) values ($1, $2, $3, $4)', [project, 'Old', 1, shot]],
  [
    'insert into media (id, sha256, description, files) values ($1, $2, $3, $4)',
    [media, MEDIA.sha256, MEDIA, { folder: MEDIA.sha256, input: 'first.mov', startNumber: null }],
  ],
  [
    'insert into shot (id, project_id, media_id, name, position, encoding) values ($1, $2, $3, $4, 0, $5)',
    [shot, project, media, 'One', 'rec709'],
  ],
  [
    'insert into piece (id, project_id, name, kind, position) values ($1, $2, $3, $4, 0)',
    [piece, project, 'Coat', 'garment'],
  ],
  ['insert into colourway (id, project_id, name, position) values ($1, $2, $3, 0)', [colourway, project, 'Retail']],
  [
    `insert into requirement (id, project_id, piece_id, colourway_id, name, lab, illuminant, tolerance)
      values ($1, $2, $3, $4, $5, $6, 'D50', null)`,
    [requirement, project, piece, colourway, 'Petrol', { L: 40, a: -20, b: -10 }],
  ],
  [
    'insert into recipe (id, project_id, piece_id, colourway_id, shift, strength) values ($1, $2, $3, $4, $5, 0.9)',
    [recipe, project, piece, colourway, SHIFT],
  ],
  [
    'insert into sighting (id, project_id, piece_id, shot_id, layers) values ($1, $2, $3, $4, $5)',
    [sighting, project, piece, shot, JSON.stringify(LAYERS)],
  ],
  ...[
    ['Isolate', { kind: 'sighting', id: sighting, before: null, after: { ...SIGHTING, layers: LAYERS } }],
    [
      'Shift',
      {
        kind: 'recipe',
        id: recipe,
        before: { ...RECIPE, shift: NEUTRAL },
        after: { ...RECIPE, shift: SHIFT },
      },
    ],
  ].map(([label, edit]): readonly [string, readonly unknown[]] => [
    `insert into change (id, project_id, who, label, edits, revisions, state)
      values ($1, $2, 'someone', $3, $4, '{}', 'done')`,
    [randomUUID(), project, label, JSON.stringify([edit])],
  ]),
];

/** A database in which the first so many migrations have been done, by hand. */
async function databaseOf(version: number): Promise<OwnDatabase> {
  const own = await ownDatabase();
  await own.pool.query(
    'create table migration (version integer primary key, name text not null, at timestamptz not null default now())',
  );
  for (const file of migrationFiles().slice(0, version))
    await inTransaction(own.pool, async (db) => {
      await db.query('insert into migration (version, name) values ($1, $2)', [Number(file.slice(0, 6)), file]);
      await db.query(readFileSync(join(import.meta.dirname, 'migrations', file), 'utf8'));
    });
  return own;
}

const VERSIONS = migrationFiles().map((_, i) => i + 1);

it.each(VERSIONS)('a database of version %i', async (version) => {
  const { pool, drop } = await databaseOf(version);
  try {
    for (const [sql, values] of ROWS) await pool.query(sql, [...values]);
    expect(await prepareDatabase(pool)).toEqual(migrationFiles().slice(version));
    const opened = await projectDocument(pool, project);
    expect(opened.project.value).toMatchObject({ name: 'Old', tolerance: 1, referenceShotId: shot, look: null });
    expect(opened.shots[0]!.value).toMatchObject({ mediaId: media, balance: null, light: null, span: null });
    expect(opened.requirements[0]!.value).toMatchObject({ lab: { L: 40, a: -20, b: -10 }, illuminant: 'D50' });
    expect(opened.recipes[0]!.value).toMatchObject({ shift: SHIFT, strength: 0.9, match: { long: 1 }, animated: {} });
    expect(opened.sightings[0]!.value).toMatchObject({ layers: LAYERS, cleanUp: null, spill: null, state: 'rough' });
    expect(opened.media[0]).toEqual({
      ...MEDIA,
      ...{ fields: 'progressive', isDeinterlaced: false, stated: null },
      ...{ turnedDeg: 0, pixelAspect: { num: 1, den: 1 } },
    });

    await stepHistory(pool, project, 'undo', randomUUID(), LOCAL);
    expect((await projectDocument(pool, project)).recipes[0]!.value.shift).toEqual(NEUTRAL);
    await stepHistory(pool, project, 'undo', randomUUID(), LOCAL);
    expect((await projectDocument(pool, project)).sightings).toEqual([]);
    await stepHistory(pool, project, 'redo', randomUUID(), LOCAL);
    await stepHistory(pool, project, 'redo', randomUUID(), LOCAL);
    const again = await projectDocument(pool, project);
    expect(again.recipes[0]!.value).toEqual(opened.recipes[0]!.value);
    expect(again.sightings[0]!.value).toEqual(opened.sightings[0]!.value);
  } finally {
    await drop();
  }
});

it('two first starts at once leave one database, made once', async () => {
  const { pool, drop } = await ownDatabase();
  try {
    const applied = await Promise.all([1, 2, 3].map(() => prepareDatabase(pool)));
    expect(applied.map((names) => names.length).sort((a, b) => a - b)).toEqual([0, 0, migrationFiles().length]);
  } finally {
    await drop();
  }
});
it('a database of a newer program is left alone, and that is said', async () => {
  const { pool, drop } = await databaseOf(migrationFiles().length);
  try {
    await pool.query(`insert into migration (version, name) values (9999, '009999_later.sql')`);
    await expect(prepareDatabase(pool)).rejects.toThrow(/newer Mellow Hue \(version 9999/);
  } finally {
    await drop();
  }
});
it('a database that is on its way up is waited for, and that is told once', async () => {
  const { pool, url, drop } = await ownDatabase();
  const [there, door] = [new URL(url), createServer()];
  door.listen(0, '127.0.0.1');
  await once(door, 'listening');
  const { port } = door.address() as AddressInfo;
  door.close();
  const reached = new URL(url);
  reached.port = String(port);
  const early = openPool(reached.href);
  let told = 0;
  const opens = () => {
    told += 1;
    door.on('connection', (here) => {
      // Either end may break off when the pool lets go of it, which is no fault of this test.
      pipeline(here, connect(Number(there.port), there.hostname), here).catch(() => undefined);
    });
    door.listen(port, '127.0.0.1');
  };
  try {
    expect(await prepareDatabase(early, opens)).toEqual(migrationFiles());
    expect(told).toBe(1);
    expect(await prepareDatabase(pool)).toEqual([]);
  } finally {
    await early.end();
    door.close();
    await drop();
  }
});
