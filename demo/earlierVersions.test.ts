// The finished film, with all that a database can hold beside it, as each earlier version could have stored it: the
// columns that it had. Brought up to today nothing of it has changed, and the project opens.
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { MediaId, ProjectId, ShotId } from '@mellow/contract';
import { colourways, pieces, projects, shots } from '../packages/server/src/db/entities.ts';
import { migrate, migrationFiles, prepareDatabase } from '../packages/server/src/db/migrate.ts';
import { inTransaction } from '../packages/server/src/db/pool.ts';
import { projectDocument } from '../packages/server/src/db/projects.ts';
import { ownDatabase, preparedDatabase, type OwnDatabase } from '../packages/server/src/testing/ownDatabase.ts';
import { putFinished } from './finished.ts';

type Row = Record<string, unknown>;
type Stored = Record<string, Row[]>;
const SHOTS = ['1 Platform', '2 Café', '3 Street', '4 Turn', '5 Gate'];
const ids = <T extends string>(n: number) => Array.from({ length: n }, () => randomUUID() as string as T);
const [projectId] = ids<ProjectId>(1) as [ProjectId];
const shotIds = ids<ShotId>(5);
const mediaIds = ids<MediaId>(5);
const CDL = { slope: [1.1, 1, 0.9], offset: [0, 0.01, 0], power: [1, 1, 1.2], saturation: 1.1 };

/** Tables of which an update begins anew by intent: measurements are made again. */
const MADE_ANEW = ['measurement', 'migration', 'worker_heartbeat'];
/** Columns that later versions hold elsewhere, as they were: what became of them is asked below. */
const GONE: Record<string, Row> = { carried_frame: { certainty: 0.75 } };
/** What the tables of the program hold, and the columns that they have. */
async function stored(pool: pg.Pool): Promise<Stored> {
  const { rows } = await pool.query<{ name: string }>(
    `select table_name as name from information_schema.tables where table_schema = 'public' order by 1`,
  );
  const all: Stored = {};
  for (const { name } of rows.filter((r) => !MADE_ANEW.includes(r.name)))
    all[name] = (await pool.query<{ row: Row }>(`select to_jsonb(t) as row from "${name}" t`)).rows.map((r) => r.row);
  return all;
}
async function columnsOf(pool: pg.Pool, table: string): Promise<string[]> {
  const { rows } = await pool.query<{ name: string }>(
    `select column_name as name from information_schema.columns where table_schema = 'public' and table_name = $1`,
    [table],
  );
  return rows.map((r) => r.name);
}

/** The film as the demo finishes it, without its pictures. */
async function film(pool: pg.Pool): Promise<void> {
  const media = {
    kind: 'video',
    width: 1280,
    height: 720,
    fps: { num: 24, den: 1 },
    frames: 48,
    codec: 'h264',
    pixelFormat: 'yuv420p',
    bitDepth: 8,
    range: 'limited',
    matrix: 'bt709',
    primaries: 'bt709',
    transfer: 'bt709',
    timecode: '01:00:00:00',
    proposedEncoding: 'rec709',
    notes: ['said'],
  };
  const plain = { encoding: 'rec709' as const, balance: null, light: null, patches: [], span: null, look: null };
  await inTransaction(pool, async (db) => {
    const own = { id: projectId, name: 'Film', tolerance: 0.8, referenceShotId: shotIds[0]! };
    await projects.insert(db, { ...own, look: null, viewTable: null }, 3);
    for (const [position, name] of SHOTS.entries()) {
      const [id, mediaId, sha256] = [shotIds[position]!, mediaIds[position]!, `${position}`.repeat(64)];
      await db.query('insert into media (id, sha256, description, files) values ($1, $2, $3, $4)', [
        mediaId,
        sha256,
        { ...media, id: mediaId, sha256, name },
        { folder: sha256, input: 'shot.mp4', startNumber: null },
      ]);
      await shots.insert(db, { ...plain, id, projectId, mediaId, name, position }, 1);
    }
    for (const [position, name] of ['Retail', 'Plum', 'Fern'].entries())
      await colourways.insert(db, { id: randomUUID() as never, projectId, name, position }, 1);
    for (const [position, name] of ['Lark suitcase', 'Scarf', 'Scooter', 'Lantern'].entries())
      await pieces.insert(db, { id: randomUUID() as never, projectId, name, kind: 'prop', position, partOf: null }, 1);
  });
  await putFinished(pool, projectId);
}

/** What the film has nothing of, so that no column keeps what it begins with. */
async function restOfIt(pool: pg.Pool): Promise<void> {
  const [review, delivery, job] = ids(3);
  const row = async (sql: string, ...values: unknown[]) => void (await pool.query(sql, values));
  const look = { cdl: CDL, curves: null, cube: null };
  await row(
    `update project set look = $1, view_table = $2, state = 'archived'`,
    JSON.stringify({ ...look, isOn: true }),
    null,
  );
  await row(`update shot set look = $1, span = '{"from": 4, "to": 40}' where position = 1`, JSON.stringify(look));
  await row('update piece set part_of = (select id from piece where position = 0) where position = 1');
  await row(
    `insert into requirement
      (id, project_id, piece_id, colourway_id, name, lab, illuminant, tolerance, note, as_in_shot_id, of_what)
      select gen_random_uuid(), $1, p.id, c.id, 'As filmed', '{"L": 40, "a": 20, "b": 5}', 'D50', 0.5, 'by hand', $2,
        'body' from piece p, colourway c where p.position = 0`,
    projectId,
    shotIds[0],
  );
  await row(
    `insert into recipe_version (id, project_id, piece_id, colourway_id, name, numbers, animated)
      select gen_random_uuid(), project_id, piece_id, colourway_id, 'First', jsonb_build_object('match', match,
        'repaint', repaint, 'shift', shift, 'finer', finer, 'strength', strength), animated from recipe limit 1`,
  );
  await row(
    `insert into still (id, project_id, shot_id, colourway_id, name, frame, encoding, balance, renders)
      values (gen_random_uuid(), $1, $2, null, 'Frame 7', 7, 'rec709', null, '[]')`,
    projectId,
    shotIds[2],
  );
  const [pass] = ids(1);
  await row(`insert into carry_run values ($1, $2, true, '{0.75}')`, pass, projectId);
  await row(`insert into carried_frame (run_id, frame, mask) values ($1, 7, '\\x04030c')`, pass);
  await row('insert into plate (project_id, media_id) values ($1, $2)', projectId, mediaIds[4]);
  await row(
    `insert into job (id, project_id, kind, subject, title, state, done, total, payload)
      values ($1, $2, 'render', 'x', 'Render 1 Platform', 'done', 48, 48, '{}')`,
    job,
    projectId,
  );
  await row(
    `insert into delivery (id, project_id, shot_id, shot_name, colourway_name, preset, job_id, file_name, bytes,
        read_back, placed)
      values ($1, $2, $3, '1 Platform', 'Plum', 'ffv1', $4, 'a.mkv', 12345678901,
        '{"frames": 48, "isExact": true, "sha256": null}', 'Film/a.mkv')`,
    delivery,
    projectId,
    shotIds[0],
    job,
  );
  await row(
    `insert into review (id, project_id, name, token, page, expires_at) values ($1, $2, 'One', 'abc', '{}', now())`,
    review,
    projectId,
  );
  await row('insert into review_film values ($1, $2, $3, null, 0)', delivery, review, shotIds[0]);
  await row(`insert into review_sighting select $1, s.id, c.id, 'x' from sighting s, colourway c limit 1`, review);
  await row(
    `insert into verdict (id, review_id, sighting_id, colourway_id, decision, who, text)
      select gen_random_uuid(), $1, s.id, c.id, 'approved', 'client', 'fine' from sighting s, colourway c limit 1`,
    review,
  );
  await row(
    `insert into note (id, project_id, review_id, shot_id, frame, text, who, spot, drawing, is_settled)
      values (gen_random_uuid(), $1, $2, $3, 9, 'here', 'client', '{"x": 0.5, "y": 0.5}', '[]', true)`,
    projectId,
    review,
    shotIds[0],
  );
  await row(
    `insert into history_step (id, project_id, change_seq, direction, who, revisions)
      select gen_random_uuid(), project_id, seq, 'undo', 'someone', '{}' from change limit 1`,
  );
  const [person] = ids(1);
  await row(
    `insert into person (id, login, name, kind, password, subject)
      values ($1, 'anna@house.example', 'Anna', 'member', '$argon2id$x', 'https://id.house.example 7')`,
    person,
  );
  await row(`insert into invitation values ('\\x04030c', $1, now())`, person);
  await row(`insert into membership values ($1, $2, 'editor')`, projectId, person);
  await row(`insert into session values ('sid', '{"personId": "x"}', now())`);
  await row(`insert into sign_in_attempt values ('address 10.0.0.66', 3, 1790000000000)`);
  await row(`update change set person_id = $1 where seq = (select min(seq) from change)`, person);
  await row('update history_step set person_id = $1', person);
  await row('insert into installation (media_id) values ($1)', person);
  await row(`insert into loose_files values ('frames/gone')`);
  await row(`insert into kept_settings values ('Online', '{"preset": "vc3"}')`);
}

let today: OwnDatabase;
let whole: Stored;
/** Empty, with the tables of the version that was looked at last, of which the next one's are made. */
let before: OwnDatabase;
beforeAll(async () => {
  today = await preparedDatabase();
  await prepareDatabase(today.pool);
  await film(today.pool);
  await restOfIt(today.pool);
  whole = await stored(today.pool);
  before = await ownDatabase();
  await before.pool.query('create table migration (version integer primary key, name text not null, at timestamptz)');
  await before.pool.query('alter table migration alter column at set default now()');
  await before.pool.end();
});
afterAll(async () => {
  await before.drop();
  await today.drop();
});
/** A database with the tables that a version had. */
async function withTablesOf(version: number): Promise<OwnDatabase> {
  const next = await ownDatabase(before.name);
  const { rows } = await next.pool.query<{ version: number }>('select version from migration');
  for (const file of migrationFiles().slice(rows.length, version)) {
    await next.pool.query('insert into migration (version, name) values ($1, $2)', [Number(file.slice(0, 6)), file]);
    const folder = join(import.meta.dirname, '../packages/server/src/db/migrations');
    await next.pool.query(readFileSync(join(folder, file), 'utf8'));
  }
  await next.pool.end();
  await before.drop();
  before = next;
  return ownDatabase(next.name);
}

it('something is stored in every table', () => {
  expect(Object.entries(whole).filter(([, rows]) => rows.length === 0)).toEqual([]);
  expect(whole.sighting).toHaveLength(7);
});

const VERSIONS = migrationFiles().map((_, i) => i + 1);
it.each(VERSIONS)('all that version %i could store', async (version) => {
  const { pool, drop } = await withTablesOf(version);
  try {
    const put: Stored = {};
    await inTransaction(pool, async (db) => {
      // rows stand in any order
      await db.query(`set local session_replication_role = replica`);
      for (const [table, rows] of Object.entries(whole)) {
        const all = await columnsOf(pool, table);
        const columns = all.filter((name) => name in rows[0]!);
        if (columns.length === 0) continue;
        const gone = GONE[table] ?? {};
        const stood = all.filter((name) => columns.includes(name) || name in gone);
        const names = stood.map((name) => `"${name}"`).join(', ');
        put[table] = rows.map((row) => Object.fromEntries(columns.map((name) => [name, row[name]])));
        await db.query(
          `insert into "${table}" (${names}) overriding system value
            select ${names} from jsonb_populate_recordset(null::"${table}", $1)`,
          [JSON.stringify(put[table].map((row) => ({ ...gone, ...row })))],
        );
      }
    });
    expect(await migrate(pool)).toEqual(migrationFiles().slice(version));
    const now = await stored(pool);
    for (const [table, rows] of Object.entries(put))
      expect(
        now[table]!.map((row) => Object.fromEntries(Object.keys(rows[0]!).map((name) => [name, row[name]]))),
      ).toEqual(rows);
    if (put.carry_run) expect(now.carry_run).toEqual(whole.carry_run);
    const opened = await projectDocument(pool, projectId);
    expect([opened.shots.length, opened.sightings.length, opened.recipes.length]).toEqual([5, 7, 12]);
  } finally {
    await drop();
  }
});
