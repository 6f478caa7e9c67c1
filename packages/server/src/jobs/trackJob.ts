import { z } from 'zod';
import { Encoding, MediaId, RunId, Track, TrackedFrame as StoredFrame } from '@mellow/contract';
import { geometryAt, motionAt, type Geometry, type Homography } from '@mellow/core';
import { findMedia } from '../db/media.ts';
import { listRuns, saveFrames, saveStop } from '../db/trackRuns.ts';
import { giveBackLumaFrames, takeLumaFrames } from '../track/lumaFrames.ts';
import { motionsFrom } from '../track/motions.ts';
import { giveBackTrackThread, takeTrackThread } from '../track/trackThread.ts';
import { interactive } from './interactive.ts';
import { scheduleStaleMeasurements } from './measureWork.ts';
import { notify } from '../db/notify.ts';
import type { JobWork } from './queue.ts';

/** A track as it was when asked to run, and the passes to make. */
const TrackPayload = z.object({
  track: Track,
  mediaId: MediaId,
  encoding: Encoding,
  runIds: z.array(RunId).min(1),
});

/** To a thousandth of a pixel: finer says nothing, and a notification of 338 numbers in full would reach its limit. */
const roundedFlex = (flex: ArrayLike<number>): number[] => Array.from(flex, (v) => Math.round(v * 1000) / 1000);

/** Frames a run goes over, in order, its first left out: that one is known. */
function framesOf({ from, to }: { from: number; to: number }): number[] {
  const step = to < from ? -1 : 1;
  return Array.from({ length: Math.abs(to - from) }, (_, k) => from + step * (k + 1));
}

/**
 * Tracks over the runs' frames at full resolution. Every frame is stored and told as soon as it is found, so that a
 * killed worker loses only what was not yet found: taken up again, a run goes on behind its last stored frame.
 */
export const trackJob: JobWork = (services, run) => interactive(() => trackAll(services, run));

const trackAll: JobWork = async ({ pool, store }, { payload, signal, report }) => {
  const { track, mediaId, runIds } = TrackPayload.parse(payload);
  const stored = await findMedia(pool, mediaId);
  if (!stored) throw new Error('the footage is no longer there');
  const { width, height } = stored.media;
  const frames = takeLumaFrames(store, stored);
  const close = () => frames.close();
  signal.addEventListener('abort', close);
  const holdOutsAt = (frame: number): Geometry[] =>
    track.holdOuts.filter((h) => h.on).map((h) => (h.paths ? geometryAt(h.paths, frame) : h.geometry));
  const thread = takeTrackThread();
  let sound = false;
  let done = 0;
  try {
    for (const runId of runIds) {
      const run = track.runs.find((r) => r.id === runId)!;
      const found = await listRuns(
        pool,
        track.runs.map((r) => r.id),
      );
      const before = found.find((r) => r.runId === runId)?.frames ?? [];
      const all = framesOf(run);
      const reached = all.findLastIndex((f) => before.some((b) => b.frame === f));
      done += reached + 1;
      report(done);
      const startFrame = reached >= 0 ? all[reached]! : run.from;
      const start = motionAt(motionsFrom([track], found).get(track.id)!, startFrame).motion;
      await thread.setUp({
        luma: await frames.frame(track.referenceFrame),
        width,
        height,
        region: track.region,
        holdOuts: holdOutsAt(track.referenceFrame),
        freedom: track.freedom,
      });
      const stop = async (frame: number, reason: 'left the picture' | 'covered' | 'no texture') => {
        await saveStop(pool, runId, { frame, reason });
        await notify(pool, track.projectId, 'tracking', { runId, frames: [], stopped: { frame, reason } });
      };
      await saveStop(pool, runId, null);
      let guess: Homography | undefined = startFrame === track.referenceFrame ? undefined : start;
      for (const frame of all.slice(reached + 1)) {
        signal.throwIfAborted();
        const next = await thread.step({ luma: await frames.frame(frame), holdOuts: holdOutsAt(frame), guess });
        if (next.lost) {
          await stop(frame, next.lost);
          break;
        }
        guess = undefined;
        const kept: StoredFrame = {
          frame,
          motion: [...next.motion] as StoredFrame['motion'],
          confidence: next.confidence,
          ...(next.flex && { flex: roundedFlex(next.flex) }),
        };
        await saveFrames(pool, runId, [kept]);
        await notify(pool, track.projectId, 'tracking', { runId, frames: [kept], stopped: null });
        report(++done);
      }
    }
    sound = true;
  } finally {
    // given back they are another's
    signal.removeEventListener('abort', close);
    // a thread that failed half-way holds a tracker in an unknown state
    await (sound ? giveBackTrackThread(thread) : thread.close());
    if (sound) giveBackLumaFrames(frames);
    else frames.close();
    await scheduleStaleMeasurements(pool, track.projectId).catch(() => undefined);
  }
};
