import { useMemo } from 'react';
import type { Geometry, Track, TrackRequest } from '@mellow/contract';
import { motionAt, trackDataOf } from '@mellow/core';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import * as commands from '../../commands/tracks.ts';
import { useCancelJobMutation, useJobsQuery, useTrackMutation } from '../../data/api.ts';
import { problemText } from '../../data/requests.ts';
import { edit, settled, tellProblem } from '../../editing/editing.ts';
import type { Change } from '../../editing/change.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { usePlace } from '../../inhand/useInHand.ts';
import { saveFile } from '../../ui/saveFile.ts';
import { useNewest } from '../../ui/useNewest.ts';
import { dragged } from '../../view/draftSlice.ts';
import { moved } from '../../view/whereSlice.ts';

/** The tracks of the shot in hand, and the commands on the one in hand. */
export function useTracks(inHand: InHand) {
  const { document, shot, media, tracks, motions, runs } = inHand;
  const place = usePlace(inHand);
  const { frame } = place;
  const dispatch = useAppDispatch();
  const trackId = useAppSelector((s) => s.where.trackId);
  const projectId = document.project.value.id;
  const track = tracks.find((t) => t.id === trackId) ?? tracks[0];
  const motion = track && motions.get(track.id);
  const { data: jobs = [] } = useJobsQuery(projectId);
  const [cancelJob] = useCancelJobMutation();
  const [startTracking] = useTrackMutation();
  const isUnderWay = (state: string) => state === 'queued' || state === 'running';
  const job = jobs.find((j) => j.kind === 'track' && isUnderWay(j.state) && j.subject === track?.id);
  const make = (change: Change) => edit(projectId, change);

  const create = (region: Geometry) => {
    if (!shot) return;
    const drawn = commands.drawTrack(document, place, region);
    make(drawn.change);
    dispatch(moved({ trackId: drawn.track.id }));
  };
  /** Starts the tracker over spans of frames, after all edits so far have been saved. */
  const run = async (spans: TrackRequest['spans']) => {
    const wanted = spans.filter((s) => s.from !== s.to);
    if (!track || wanted.length === 0) return;
    await settled();
    const { error } = await startTracking({ projectId, trackId: track.id, spans: wanted });
    if (error) tellProblem(new Error(problemText(error)));
  };
  const saveData = () => {
    if (!track || !motion || !media) return;
    const data = trackDataOf(track.name, motion, media.frames, { width: media.width, height: media.height });
    saveFile(`${track.name}.json`, JSON.stringify(data), 'application/json');
  };
  const does = useNewest({
    save: (label: string, next: Track) => make(commands.putTrack(label, next)),
    drag: (next: Track) => void dispatch(dragged({ track: next })),
    create,
    remove: (gone: Track) => make(commands.removeTrack(gone)),
    addHoldOut: (geometry: Geometry) => track && make(commands.drawHoldOut(track, geometry)),
    run,
    regionMoved: (geometry: Geometry) => track && motion && commands.regionMoved(track, motion, frame, geometry),
    keyframeHere: () => track && motion && make(commands.toggleTrackKeyframe(track, motion, frame)),
    bin: (which: 'from' | 'up to') => track && make(commands.binTrackFrames(track, which, frame)),
    saveData,
    cancel: () => job && void cancelJob(job.id),
  });
  const { from: first, to: last } = inHand.span ?? { from: 0, to: 0 };
  return useMemo(() => {
    const later = track?.manual.map((m) => m.frame).filter((f) => f > frame) ?? [];
    return {
      tracks,
      track,
      motion,
      now: motion && motionAt(motion, frame),
      frame,
      first,
      last,
      nextManual: later.length > 0 ? Math.min(...later) : undefined,
      job,
      runs,
      /** Where the region is on this frame, as a path to draw and to take hold of. */
      regionNow: track && motion && commands.regionOn(track, motion, frame),
      dispatch,
      ...does,
    };
  }, [tracks, track, motion, frame, first, last, job, runs, dispatch, does]);
}
export type Tracks = ReturnType<typeof useTracks>;
