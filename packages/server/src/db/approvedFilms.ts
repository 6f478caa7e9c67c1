// Films of reviews sent before, of what was approved in them: what a new version is compared with.
import { ApprovedFile } from '@mellow/contract';
import type { Queryable } from './pool.ts';

/**
 * Of each shot and colourway of a review the film of the last review before it in which a piece of that shot was
 * approved in that colourway, whatever was said elsewhere since. Films that are not finished, and those of another
 * part, size or rate of the shot, are none.
 */
export async function approvedFilms(db: Queryable, reviewId: string): Promise<ApprovedFile[]> {
  const { rows } = await db.query<{ file: unknown }>(
    `with sent as (
       select r.id, r.name, r.created_at, shot ->> 'id' as shot_id,
         shot - 'name' - 'sightings' - 'id' - 'timecode' as frames,
         array(select sighting ->> 'id' from jsonb_array_elements(shot -> 'sightings') sighting) as sightings
       from review r cross join jsonb_array_elements(r.page -> 'shots') shot
       where r.project_id = (select project_id from review where id = $1)),
     said as (
       select distinct on (review_id, sighting_id, colourway_id) review_id, sighting_id, colourway_id, decision
       from verdict order by review_id, sighting_id, colourway_id, at desc)
     select distinct on (now.shot_id, f.colourway_id)
       json_build_object('deliveryId', f.delivery_id, 'shotId', f.shot_id, 'colourwayId', f.colourway_id,
         'state', j.state, 'done', j.done, 'total', j.total, 'reviewName', before.name) as file
     from sent now
     join sent before on before.shot_id = now.shot_id and before.created_at < now.created_at
       and before.frames = now.frames
     join review_film f on f.review_id = before.id and f.shot_id::text = now.shot_id
     join delivery d on d.id = f.delivery_id join job j on j.id = d.job_id and j.state = 'done'
     where now.id = $1 and exists (
       select 1 from said where said.review_id = before.id and said.colourway_id = f.colourway_id
         and said.decision = 'approved' and said.sighting_id::text = any(before.sightings))
     order by now.shot_id, f.colourway_id, before.created_at desc`,
    [reviewId],
  );
  return rows.map((row) => ApprovedFile.parse(row.file));
}
