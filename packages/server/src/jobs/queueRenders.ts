import { randomUUID } from 'node:crypto';
import {
  balanceOf,
  frameCount,
  framesOf,
  lookOfShot,
  PLAIN_PATTERN,
  PRESETS,
  renderFileName,
  rendersOfShot,
  withHandles,
  type Colourway,
  type JobId,
  type Media,
  type Preset,
  type ProjectDocument,
  type RenderRequest,
  type Shot,
} from '@mellow/contract';
import { countDeliveries, hasSame, insertDelivery, type NewDelivery } from '../db/deliveries.ts';
import type { NewJob } from '../db/jobs.ts';
import type { Queryable } from '../db/pool.ts';
import { listRuns } from '../db/trackRuns.ts';
import { NotFound, Refused } from '../errors.ts';
import { OUTPUTS, pieceFileNames } from '../render/presets.ts';
import { queueJobs } from './queue.ts';

/** Throws Refused where a format takes no picture as small as the shot's. */
function assertFits(preset: Preset, shot: string, { width, height }: Media): void {
  const { label, least } = PRESETS[preset] as { label: string; least?: { width: number; height: number } };
  if (!least || (width >= least.width && height >= least.height)) return;
  throw new Refused(
    'conflict',
    `${label} takes pictures from ${least.width} × ${least.height}; ${shot} is of ${width} × ${height}.`,
  );
}

/** Throws Refused where a look is wanted and none of the shots has one. */
export function assertSomeLook({ project }: ProjectDocument, shots: readonly Shot[]): void {
  if (!shots.some((shot) => lookOfShot(project.value, shot)))
    throw new Refused('conflict', 'None of these shots has a look to render through.');
}

/**
 * Queues the renders that are asked for, in the caller's transaction: all of them, or none. Ids of the deliveries, shot
 * by shot. Throws NotFound and Refused.
 */
export async function queueRenders(db: Queryable, document: ProjectDocument, asked: RenderRequest): Promise<string[]> {
  if (asked.burnIn && PRESETS[asked.preset].group !== 'For review')
    throw new Refused('conflict', `Nothing is burnt into ${PRESETS[asked.preset].label}: it is not for review.`);
  const all = asked.colourwayIds.map((id) => {
    const colourway = document.colourways.find((c) => c.value.id === id)?.value;
    if (!colourway) throw new NotFound('colourway', id);
    return colourway;
  });
  const shots = asked.shotIds.map((id) => {
    const shot = document.shots.find((s) => s.value.id === id)?.value;
    if (!shot) throw new NotFound('shot', id);
    return shot;
  });
  if (asked.withLook) assertSomeLook(document, shots);
  // mattes are the same in every colourway
  const colourways = OUTPUTS[asked.preset].what === 'mattes' ? all.slice(0, 1) : all;
  const ids: string[] = [];
  for (const shot of shots) ids.push(...(await queueRendersOfShot(db, document, { ...asked, shot, colourways })));
  if (ids.length === 0) throw new Refused('conflict', 'All of this is rendered already, as it is now.');
  return ids;
}

/** Pictures of one frame, in pixels, that are held at once: a frame in all the colourways that are made together. */
const HELD_PIXELS = 50e6;
/** How many colourways of a shot are made together. */
const together = ({ width, height }: Media): number => Math.max(1, Math.floor(HELD_PIXELS / (width * height)));

interface Wanted {
  shot: Shot;
  /** Null: as filmed, with the balance of the shot and nothing recoloured. */
  colourway: Colourway | null;
  preset: Preset;
  withLook?: boolean | undefined;
  namePattern?: string | undefined;
  burnIn?: boolean | undefined;
  handles?: number | undefined;
  onlyChanged?: boolean | undefined;
  toFolder?: boolean | undefined;
}
type WantedOfShot = Omit<Wanted, 'colourway'> & { colourways: readonly Wanted['colourway'][] };
/**
 * Queues the renders of one shot in the caller's transaction, those of as many colourways together as can be held: the
 * ids of the deliveries. One that has not changed, where only what has is wanted, is left out. Throws Refused.
 */
export async function queueRendersOfShot(
  db: Queryable,
  document: ProjectDocument,
  { colourways, ...asked }: WantedOfShot,
): Promise<string[]> {
  const planned: Planned[] = [];
  for (const colourway of colourways) {
    const render = await plannedRender(db, document, { ...asked, colourway });
    if (render) planned.push(render);
  }
  const atOnce = together(document.media.find((m) => m.id === asked.shot.mediaId)!);
  for (let from = 0; from < planned.length; from += atOnce)
    await queueJobs(
      db,
      planned.slice(from, from + atOnce).map((render) => render.job),
    );
  for (const { delivery } of planned) await insertDelivery(db, delivery);
  return planned.map(({ delivery }) => delivery.id);
}

interface Planned {
  job: NewJob;
  delivery: NewDelivery;
}
/** Undefined where only what has changed is wanted and this has not. Throws Refused. */
async function plannedRender(
  db: Queryable,
  document: ProjectDocument,
  { shot, colourway, preset, namePattern = PLAIN_PATTERN, handles = 0, ...asked }: Wanted,
): Promise<Planned | undefined> {
  const { id: projectId, name: project } = document.project.value;
  const { withLook, burnIn = false, onlyChanged, toFolder = false } = asked;
  const look = withLook ? lookOfShot(document.project.value, shot) : null;
  const media = document.media.find((m) => m.id === shot.mediaId)!;
  assertFits(preset, shot.name, media);
  const span = withHandles(framesOf(shot, media), media, handles);
  const tracks = document.tracks.map((t) => t.value).filter((t) => t.shotId === shot.id);
  const isMattes = OUTPUTS[preset].what === 'mattes';
  const all = colourway ? rendersOfShot(document, shot.id, colourway.id) : { renders: [], sightings: [] };
  // a piece of which nothing is selected has no matte to hand over
  const isWanted = (layers: readonly unknown[]) => !isMattes || layers.length > 0;
  const sightings = all.sightings.filter((s) => isWanted(s.layers));
  if (isMattes && sightings.length === 0)
    throw new Refused('conflict', `${shot.name} has no mattes: nothing is isolated in it.`);
  const [id, jobId] = [randomUUID(), randomUUID() as JobId];
  const colourwayName = colourway?.name ?? 'as filmed';
  const of = { projectId, shotId: shot.id, colourwayName, preset };
  const words = {
    project,
    shot: shot.name,
    colourway: colourwayName,
    n: `${(await countDeliveries(db, of)) + 1}`,
    date: new Date().toISOString().slice(0, 10),
  };
  const fileName = renderFileName(namePattern, words, preset);
  const nameOf = (pieceId: string) => document.pieces.find((p) => p.value.id === pieceId)!.value.name;
  const madeOf = {
    mediaId: media.id,
    encoding: shot.encoding,
    span,
    balance: balanceOf(shot),
    preset,
    sightings: all.renders.filter((r) => isWanted(r.layers)),
    ...(look && { look }),
    ...(toFolder && { toFolder: project }),
    ...(burnIn && { burnIn: `${shot.name} · ${colourwayName}` }),
    pieces: pieceFileNames(sightings.map((s) => nameOf(s.pieceId))),
    tracks,
    runs: await listRuns(
      db,
      tracks.flatMap((t) => t.runs.map((r) => r.id)),
    ),
  };
  if (onlyChanged && (await hasSame(db, of, madeOf))) return undefined;
  const job = {
    id: jobId,
    projectId,
    kind: 'render' as const,
    subject: id,
    title: `Render ${shot.name}, ${colourwayName}, ${PRESETS[preset].label}`,
    total: frameCount(span),
    payload: { deliveryId: id, fileName, ...madeOf },
  };
  return { job, delivery: { id, ...of, shotName: shot.name, jobId, fileName } };
}
