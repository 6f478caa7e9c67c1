import type {
  Certainties,
  MediaId,
  ProjectCard,
  ProjectDocument,
  ProjectId,
  ProjectState,
  Role,
} from '@mellow/contract';
import { d65LabFrom, hexFromLab, hexFromLinear709, type Illuminant, type Lab } from '@mellow/core';
import { NotFound } from '../errors.ts';
import { HISTORY } from './history.ts';
import {
  colourways,
  pieces,
  projects,
  recipes,
  requirements,
  shots,
  sightings,
  stills,
  tracks,
  versions,
} from './entities.ts';
import { PROXIES } from './jobs.ts';
import { listsOf } from './listing.ts';
import { MEDIA_OF_PROJECT, MEDIA_OF_SHOT, PLATES, type StoredMedia } from './media.ts';
import type { Queryable } from './pool.ts';
import { CERTAINTIES } from './carryRuns.ts';
import { TRACKED_FRAMES } from './trackRuns.ts';

/** Who looks at a project, and with which role. */
interface Looking {
  personId: string | null;
  role: Role;
}
const IN_PROJECT = 'project_id = $1';
/** What the pictures of all shots depend on. */
const FOR_ALL_SHOTS = {
  pieces: pieces.listing(IN_PROJECT),
  colourways: colourways.listing(IN_PROJECT),
  recipes: recipes.listing(IN_PROJECT),
  trackedFrames: TRACKED_FRAMES,
  carried: CERTAINTIES,
};
const documentLists = listsOf('project.document', {
  ...FOR_ALL_SHOTS,
  project: projects.listing('id = $1'),
  shots: shots.listing(IN_PROJECT),
  requirements: requirements.listing(IN_PROJECT),
  sightings: sightings.listing(IN_PROJECT),
  tracks: tracks.listing(IN_PROJECT),
  versions: versions.listing(IN_PROJECT),
  stills: stills.listing(IN_PROJECT),
  media: MEDIA_OF_PROJECT,
  plates: PLATES,
  proxies: PROXIES,
  history: HISTORY,
});
interface Listed {
  trackedFrames: [runId: string, frames: number][];
  carried: [runId: string, certainties: Certainties][];
  media: StoredMedia[];
}
/** Lists as a document has them. */
const inDocument = <L extends Listed>(lists: L) => ({
  ...lists,
  trackedFrames: Object.fromEntries(lists.trackedFrames),
  carried: Object.fromEntries(lists.carried),
  media: lists.media.map(({ media }) => media),
});
/** A project as it stands at one moment. Throws NotFound. */
export async function projectDocument(
  db: Queryable,
  projectId: string,
  { personId, role }: Looking = { personId: null, role: 'editor' },
): Promise<ProjectDocument> {
  const lists = await documentLists(db, [projectId, personId]);
  const project = lists.project[0];
  if (!project) throw new NotFound('project', projectId);
  return {
    ...inDocument(lists),
    project,
    proxies: Object.fromEntries(lists.proxies),
    history: lists.history[0]!,
    role,
  };
}

/** As much of a project as the picture of one shot depends on: its pieces and recipes, and what lies in the shot. */
export type ShotDocument = Pick<
  ProjectDocument,
  'shots' | 'pieces' | 'colourways' | 'recipes' | 'sightings' | 'tracks' | 'trackedFrames' | 'carried' | 'media'
>;
const IN_SHOT = 'shot_id = $2';
const shotLists = listsOf('project.shot', {
  ...FOR_ALL_SHOTS,
  shots: shots.listing('id = $2'),
  sightings: sightings.listing(IN_SHOT),
  tracks: tracks.listing(IN_SHOT),
  media: MEDIA_OF_SHOT,
});
/** Of a project of a thousand sightings that is a hundredth. */
export const shotDocument = async (db: Queryable, projectId: string, shotId: string): Promise<ShotDocument> =>
  inDocument(await shotLists(db, [projectId, shotId]));

/**
 * Cards for the start page: each piece with its measured source colour and its required one. `personId`: only of the
 * projects in which somebody has a role.
 */
export async function listProjectCards(db: Queryable, personId: string | null = null): Promise<ProjectCard[]> {
  const { rows } = await db.query<{
    id: string;
    name: string;
    updated_at: Date;
    state: ProjectState;
    role: Role;
    poster: { mediaId: MediaId; frames: number } | null;
    shots: string;
    pieces:
      | {
          name: string;
          before: [number, number, number] | null;
          required: { lab: Lab; illuminant: Illuminant } | null;
        }[]
      | null;
  }>(
    `select p.id, p.name, p.updated_at, p.state,
       coalesce((select role from membership where project_id = p.id and person_id = $1), 'editor') as role,
       (select json_build_object('mediaId', m.id, 'frames', (m.description -> 'frames')::integer)
          from shot s join media m on m.id = s.media_id
          where s.project_id = p.id order by s.position, s.id limit 1) as poster,
       (select count(*) from shot s where s.project_id = p.id) as shots,
       (select json_agg(json_build_object('name', pc.name,
          'before', (select m.frames -> 0 -> 'before' -> 'meanLinear' from measurement m
            join sighting s on s.id = m.sighting_id where s.piece_id = pc.id and m.frames -> 0 is not null limit 1),
          'required', (select json_build_object('lab', r.lab, 'illuminant', r.illuminant) from requirement r
            join colourway c on c.id = r.colourway_id where r.piece_id = pc.id order by c.position limit 1))
          order by pc.position) from piece pc where pc.project_id = p.id) as pieces
     from project p
     where $1::uuid is null or exists (select 1 from membership where project_id = p.id and person_id = $1)
     order by p.updated_at desc`,
    [personId],
  );
  return rows.map((row) => ({
    id: row.id as ProjectId,
    name: row.name,
    shots: Number(row.shots),
    updatedAt: row.updated_at.toISOString(),
    state: row.state,
    role: row.role,
    poster: row.poster && { mediaId: row.poster.mediaId, frame: Math.floor(row.poster.frames / 2) },
    pieces: (row.pieces ?? []).map((p) => ({
      name: p.name,
      from: p.before && hexFromLinear709(p.before),
      to: p.required && hexFromLab(d65LabFrom(p.required.lab, p.required.illuminant)),
    })),
  }));
}
/** Since when it is removed is known as long as it is. */
const SET_STATE = `update project set state = $2,
  removed_at = case when $2 = 'removed' then coalesce(removed_at, now()) end where id = $1`;
/** Throws NotFound. */
export async function setProjectState(db: Queryable, projectId: string, state: ProjectState): Promise<void> {
  const { rowCount } = await db.query(SET_STATE, [projectId, state]);
  if (rowCount === 0) throw new NotFound('project', projectId);
}
export async function assertProject(db: Queryable, projectId: string): Promise<void> {
  if (!(await projects.find(db, projectId))) throw new NotFound('project', projectId);
}
