import type { AnswerOf, Geometry, HoldOut, Problem, Track, TrackId, TrackRequest } from '@mellow/contract';
import {
  compose,
  motionAt,
  pathOf,
  projectQuad,
  projectedGeometry,
  regionQuad,
  trackDataOf,
  withKey,
  type Freedom,
  type Homography,
  type PathPoint,
} from '@mellow/core';
import { api, problemText, useCancelJobMutation, useJobsQuery } from '../../app/api.ts';
import { edit, settled, tellProblem } from '../../app/editing.ts';
import { store, useAppDispatch, useAppSelector } from '../../app/store.ts';
import type { InHand } from '../../app/useProject.ts';
import { placeChanged, trackDragged } from '../../app/viewSlice.ts';
import { saveFile } from '../../ui/saveFile.ts';
import { fittedMotion } from './fittedMotion.ts';

/** Parts of a motion that a track may make and a follower may take. */
export const MOTION_PARTS = [
  'move',
  'turn',
  'scale',
  'shear',
  'perspective',
  'flex',
] as const satisfies readonly (keyof Freedom)[];
export const ALL_MOTION: Freedom = { move: true, turn: true, scale: true, shear: true, perspective: true };
const asSpline = (geometry: Geometry): Geometry =>
  geometry.form === 'spline' || geometry.form === 'gradient' ? geometry : { form: 'spline', points: pathOf(geometry) };

/** The tracks of the shot in hand, and all that can be done to the one in hand. */
export function useTracks(inHand: InHand) {
  const { document, shot, media, tracks, motions, runs } = inHand;
  const dispatch = useAppDispatch();
  const { trackId, frame } = useAppSelector((s) => s.view.place);
  const projectId = document.project.value.id;
  const track = tracks.find((t) => t.id === trackId) ?? tracks[0];
  const motion = track && motions.get(track.id);
  const now = motion && motionAt(motion, frame);
  const { data: jobs = [] } = useJobsQuery(projectId);
  const [cancelJob] = useCancelJobMutation();
  const job = jobs.find(
    (j) =>
      j.kind === 'track' &&
      (j.state === 'queued' || j.state === 'running') &&
      track &&
      shot &&
      j.title.startsWith(`Track ${track.name} in ${shot.name}:`),
  );

  const save = (label: string, next: Track) => edit(projectId, label, [{ kind: 'track', id: next.id, value: next }]);
  const drag = (next: Track) => dispatch(trackDragged(next));
  const create = (region: Geometry) => {
    if (!shot) return;
    const id = crypto.randomUUID() as TrackId;
    const name = `Track ${tracks.length + 1}`;
    save(`Draw ${name}`, {
      id,
      projectId,
      shotId: shot.id,
      name,
      referenceFrame: frame,
      region: asSpline(region),
      freedom: ALL_MOTION,
      holdOuts: [],
      manual: [],
      runs: [],
    });
    dispatch(placeChanged({ trackId: id }));
  };
  const remove = (gone: Track) => edit(projectId, `Remove ${gone.name}`, [{ kind: 'track', id: gone.id, value: null }]);
  const addHoldOut = (geometry: Geometry) => {
    if (!track) return;
    const made: HoldOut = {
      id: crypto.randomUUID(),
      name: `Hold-out ${track.holdOuts.length + 1}`,
      on: true,
      geometry: asSpline(geometry),
    };
    save(`Draw ${made.name} of ${track.name}`, { ...track, holdOuts: [...track.holdOuts, made] });
  };

  /** Starts the tracker over spans of frames, after all edits so far have been saved. */
  const run = async (spans: TrackRequest['spans']) => {
    const wanted = spans.filter((s) => s.from !== s.to);
    if (!track || wanted.length === 0) return;
    await settled();
    const response = await fetch(`/api/projects/${projectId}/track-runs`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ trackId: track.id, spans: wanted } satisfies TrackRequest),
    }).catch(() => undefined);
    if (!response?.ok)
      return tellProblem(
        response ? new Error(((await response.json()) as Problem).detail) : new Error(problemText(undefined)),
      );
    await (response.json() as Promise<AnswerOf<'track'>>);
    store.dispatch(api.util.invalidateTags(['Project']));
  };

  /** Where the region is on this frame, as a path to draw and to take hold of. */
  const regionNow = track && now ? projectedGeometry(track.region, now.motion, true) : undefined;
  /** The region moved by hand on this frame: the region itself on the frame it was drawn on, else a keyframe over the track. */
  const regionMoved = (geometry: Geometry): Track | undefined => {
    if (!track || !now || geometry.form !== 'spline' || track.region.form !== 'spline') return undefined;
    if (frame === track.referenceFrame) return { ...track, region: geometry };
    const from = pathOf(regionNow!) as PathPoint[];
    if (from.length !== geometry.points.length) return undefined;
    const step = fittedMotion(from, geometry.points, track.freedom);
    return step && withManual(track, compose(step, now.motion));
  };
  const withManual = (of: Track, motion_: Homography): Track => {
    const corners = projectQuad(motion_, regionQuad(of.region)) as unknown as Track['manual'][number]['corners'];
    return {
      ...of,
      manual: withKey(
        of.manual.map((m) => ({ frame: m.frame, value: m.corners, ease: 'linear' as const })),
        { frame, value: corners, ease: 'linear' },
      ).map((k) => ({ frame: k.frame, corners: k.value })),
    };
  };
  const keyHere = () => {
    if (!track || !now) return;
    const has = track.manual.some((m) => m.frame === frame);
    if (has)
      save(`Take away the keyframe of ${track.name} on frame ${frame}`, {
        ...track,
        manual: track.manual.filter((m) => m.frame !== frame),
      });
    else save(`Set a keyframe of ${track.name} on frame ${frame}`, withManual(track, now.motion));
  };
  /** Frames of the runs from here on, or up to here, no longer count. */
  const bin = (which: 'from' | 'up to') => {
    if (!track) return;
    const cut = track.runs.flatMap((r) => {
      const next =
        which === 'from' ? { ...r, last: Math.min(r.last, frame - 1) } : { ...r, first: Math.max(r.first, frame + 1) };
      return next.first > next.last || (frame === 0 && which === 'from') ? [] : [next];
    });
    save(`Bin the frames of ${track.name} ${which === 'from' ? `from ${frame} on` : `up to ${frame}`}`, {
      ...track,
      runs: cut,
      manual: track.manual.filter((m) => (which === 'from' ? m.frame < frame : m.frame > frame)),
    });
  };
  const saveData = () =>
    track &&
    motion &&
    media &&
    saveFile(
      `${track.name}.json`,
      JSON.stringify(trackDataOf(track.name, motion, media.frames, { width: media.width, height: media.height })),
      'application/json',
    );
  const last = media ? media.frames - 1 : 0;
  const nextManual = track?.manual
    .map((m) => m.frame)
    .filter((f) => f > frame)
    .sort((a, b) => a - b)[0];
  return {
    tracks,
    track,
    motion,
    now,
    frame,
    last,
    nextManual,
    job,
    runs,
    regionNow,
    save,
    drag,
    create,
    remove,
    addHoldOut,
    run,
    regionMoved,
    keyHere,
    bin,
    saveData,
    cancel: () => job && void cancelJob(job.id),
    dispatch,
  };
}
export type Tracks = ReturnType<typeof useTracks>;
