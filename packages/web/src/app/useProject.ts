import { useEffect, useMemo } from 'react';
import { useParams } from 'react-router';
import {
  balanceOf,
  hasAlpha,
  rendersOfShot,
  type Job,
  type Media,
  type ProjectDocument,
  type Recipe,
  type Requirement,
  type RunResult,
  type Shot,
  type Sighting,
  type Track,
} from '@mellow/contract';
import {
  knownMotions,
  plateKey,
  platesOf,
  sightingAt,
  type Motions,
  type SightingRender,
  type TrackMotion,
} from '@mellow/core';
import { api, useGetProjectQuery, useTracksQuery } from './api.ts';
import { frameUrl } from '../engine/frameClient.ts';
import type { FrameRef, Moment } from '../engine/frameProtocol.ts';
import { addFound, withJob } from './arrivals.ts';
import { hasUnsent } from './editing.ts';
import { remember } from './pending.ts';
import { useAppDispatch, useAppSelector } from './store.ts';
import { placeChanged, projectOpened, type Draft } from './viewSlice.ts';

/** The project of the address, kept up to date by server-sent events. */
export function useProjectData(): { projectId: string; document: ProjectDocument | undefined; error: unknown } {
  const projectId = useParams().projectId!;
  const dispatch = useAppDispatch();
  const { data, error } = useGetProjectQuery(projectId);
  useEffect(() => void dispatch(projectOpened(projectId)), [dispatch, projectId]);
  useEffect(() => {
    const source = new EventSource(`/api/projects/${projectId}/events`);
    const refetch = (...tags: Parameters<typeof api.util.invalidateTags>[0]) => dispatch(api.util.invalidateTags(tags));
    source.addEventListener('change', () => void (!hasUnsent() && refetch('Project', 'Measurements', 'Tracks')));
    source.addEventListener('tracking', (event) => {
      const found = JSON.parse((event as MessageEvent<string>).data) as RunResult;
      remember(found);
      dispatch(api.util.updateQueryData('tracks', projectId, (runs) => addFound(runs, found)));
    });
    source.addEventListener('measured', () => refetch('Measurements'));
    source.addEventListener('job', (event) => {
      const job = JSON.parse((event as MessageEvent<string>).data) as Job;
      dispatch(api.util.updateQueryData('jobs', projectId, (jobs) => withJob(jobs, job)));
      const isUnderWay = job.state === 'queued' || job.state === 'running';
      if (job.kind === 'render') refetch('Deliveries');
      else if (job.kind === 'proxy') refetch('Project');
      else if (!isUnderWay) refetch('Tracks', 'Project', 'Measurements');
    });
    let opened = false;
    source.onopen = () => {
      if (opened) refetch('Project', 'Measurements', 'Jobs', 'Deliveries', 'Tracks');
      opened = true;
    };
    return () => source.close();
  }, [dispatch, projectId]);
  return { projectId, document: data, error };
}

/** What is in hand: shot, piece, colourway and what hangs on them, with the draft of a moving hand laid over it. */
export interface InHand {
  document: ProjectDocument;
  shot: Shot | undefined;
  media: Media | undefined;
  piece: ProjectDocument['pieces'][number]['value'] | undefined;
  colourwayId: string | undefined;
  sighting: Sighting | undefined;
  recipe: Recipe | undefined;
  requirement: Requirement | undefined;
  /** Tracks of the shot, and what is known of their motion. */
  tracks: Track[];
  motions: Motions;
  /** The same for any shot. */
  motionsOf: (shotId: string) => Motions;
  runs: readonly RunResult[];
}
const NO_RUNS: RunResult[] = [];
const NO_MOTIONS: Motions = new Map();
export function useInHand(document: ProjectDocument): InHand {
  const place = useAppSelector((s) => s.view.place);
  const draft = useAppSelector((s) => s.view.draft);
  const { data: runs = NO_RUNS } = useTracksQuery(document.project.value.id);
  const drafted = useMemo(() => withDraft(document, draft), [document, draft]);
  const byShot = useMemo(() => {
    const found = new Map(runs.map((r) => [r.runId as string, r.frames]));
    const shots = new Map<string, Map<string, TrackMotion>>();
    for (const { value } of drafted.tracks) {
      const of = shots.get(value.shotId) ?? new Map<string, TrackMotion>();
      shots.set(
        value.shotId,
        of.set(
          value.id,
          knownMotions(value, (id) => found.get(id) ?? []),
        ),
      );
    }
    return shots;
  }, [drafted.tracks, runs]);
  return useMemo(() => {
    const shot = (drafted.shots.find((s) => s.value.id === place.shotId) ?? drafted.shots[0])?.value;
    const piece = (drafted.pieces.find((p) => p.value.id === place.pieceId) ?? drafted.pieces[0])?.value;
    const colourwayId = (drafted.colourways.find((c) => c.value.id === place.colourwayId) ?? drafted.colourways[0])
      ?.value.id;
    const ofPiece = <T extends { value: { pieceId: string; colourwayId: string } }>(list: T[]) =>
      list.find((r) => r.value.pieceId === piece?.id && r.value.colourwayId === colourwayId)?.value;
    return {
      document: drafted,
      shot,
      media: drafted.media.find((m) => m.id === shot?.mediaId),
      piece,
      colourwayId,
      sighting: drafted.sightings.find((s) => s.value.pieceId === piece?.id && s.value.shotId === shot?.id)?.value,
      recipe: ofPiece(drafted.recipes) as Recipe | undefined,
      requirement: ofPiece(drafted.requirements) as Requirement | undefined,
      tracks: drafted.tracks.map((t) => t.value).filter((t) => t.shotId === shot?.id),
      motions: byShot.get(shot?.id ?? '') ?? NO_MOTIONS,
      motionsOf: (shotId) => byShot.get(shotId) ?? NO_MOTIONS,
      runs,
    };
  }, [drafted, byShot, runs, place.shotId, place.pieceId, place.colourwayId]);
}

function withDraft(document: ProjectDocument, draft: Draft): ProjectDocument {
  const { sighting, balance, recipe, track } = draft;
  if (!sighting && !balance && !recipe && !track) return document;
  const recipes = recipe
    ? [
        ...document.recipes.filter(
          (r) => r.value.pieceId !== recipe.pieceId || r.value.colourwayId !== recipe.colourwayId,
        ),
        {
          revision: 0,
          value: {
            animated: {},
            ...document.recipes.find(
              (r) => r.value.pieceId === recipe.pieceId && r.value.colourwayId === recipe.colourwayId,
            )?.value,
            ...recipe,
          } as Recipe,
        },
      ]
    : document.recipes;
  const sightings = sighting
    ? document.sightings.map((s) => {
        if (s.value.id !== sighting.sightingId) return s;
        const { sightingId: _id, ...changed } = sighting;
        return { ...s, value: { ...s.value, ...changed } };
      })
    : document.sightings;
  const shots = balance
    ? document.shots.map((s) =>
        s.value.id === balance.shotId ? { ...s, value: { ...s.value, balance: balance.balance } } : s,
      )
    : document.shots;
  const tracks = track
    ? document.tracks.map((t) => (t.value.id === track.id ? { ...t, value: track } : t))
    : document.tracks;
  return { ...document, recipes, sightings, shots, tracks };
}

/** The pieces of a shot as the renderer takes them on a frame, in recolouring order; and which of them is in hand. */
export function rendersInHand(
  document: ProjectDocument,
  shotId: string,
  colourwayId: string | undefined,
  pieceId: string | undefined,
  frame: number,
  motions: Motions,
): { sightings: SightingRender[]; index: number } {
  const { renders, sightings } = rendersOfShot(document, shotId, colourwayId);
  return {
    sightings: renders.map((r) => sightingAt(r, frame, motions)),
    index: sightings.findIndex((s) => s.pieceId === pieceId),
  };
}

/** A frame of a shot as the engine reads it, with the shot's balance and the frames of the plates its stacks name. */
export function frameRefOf(document: ProjectDocument, shot: Shot, media: Media, frame: number): FrameRef {
  const plates: Record<string, string> = {};
  for (const layer of document.sightings
    .filter((s) => s.value.shotId === shot.id)
    .flatMap((s) => platesOf(s.value.layers))) {
    const footage = document.media.find((m) => m.id === layer.mediaId);
    const at = frame + layer.offsetFrames;
    if (footage && at >= 0 && at < footage.frames && document.proxies[footage.id]?.state === 'done')
      plates[plateKey(layer)] = frameUrl(
        footage.id,
        at,
        layer.channel === 'alpha' && hasAlpha(footage.pixelFormat) ? 'alpha' : 'proxy',
      );
  }
  return {
    url: frameUrl(media.id, Math.min(frame, media.frames - 1)),
    encoding: shot.encoding,
    fullWidth: media.width,
    balance: balanceOf(shot),
    plates,
  };
}

/** What lies on a frame of a shot, ready for the engine; `steady: false` leaves the frames around out (quicker, while a hand moves). */
export function momentAt(
  document: ProjectDocument,
  shot: Shot,
  media: Media,
  colourwayId: string | undefined,
  pieceId: string | undefined,
  frame: number,
  motions: Motions,
  steady = true,
): Moment {
  const at = (f: number) => ({
    frame: frameRefOf(document, shot, media, f),
    ...rendersInHand(document, shot.id, colourwayId, pieceId, f, motions),
  });
  const now = at(frame);
  const reach = steady ? Math.max(0, ...now.sightings.map((s) => s.steadyFrames ?? 0)) : 0;
  const around = Array.from({ length: 2 * reach + 1 }, (_, k) => k - reach)
    .filter((off) => off !== 0 && frame + off >= 0 && frame + off < media.frames)
    .map((off) => {
      const { index: _i, ...near } = at(frame + off);
      return { off, ...near };
    });
  return { ...now, ...(around.length > 0 && { around }) };
}
export { placeChanged };
