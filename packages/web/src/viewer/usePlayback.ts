import { useEffect, useRef, type RefObject } from 'react';
import { within, type Media, type Span } from '@mellow/contract';
import { useAppSelector } from '../app/store.ts';
import { AHEAD, frameClient } from '../engine/frameClient.ts';
import { Feed } from '../inhand/feed.ts';
import { frameInSight, passFrame, restOnFrame } from '../inhand/passing.ts';
import type { ShowTask } from '../engine/frameProtocol.ts';
import { further } from './framesAround.ts';
import { PlayClock } from './playClock.ts';

/** The rate it plays at, frames a second; undefined while it stands. */
export const rateFeed = new Feed<number | undefined>(undefined);

/**
 * Plays the shot, or its loop: every frame in turn, each when it is computed, its time has come, and the one before it,
 * `answeredRef`, has been in sight.
 */
export function usePlayback(
  media: Media | undefined,
  span: Span | undefined,
  taskAt: (frame: number) => ShowTask | undefined,
  answeredRef: RefObject<number | undefined>,
): void {
  const playing = useAppSelector((s) => s.playing);
  const loop = useAppSelector((s) => s.where.loop);
  const latest = useRef(taskAt);
  latest.current = taskAt;
  useEffect(() => {
    if (!playing || !media || !span) return rateFeed.publish(undefined);
    const played = loop ?? span;
    const after = (frame: number, by = 1) => further(frame, by, played);
    let clock: PlayClock | undefined;
    let [asked, shown] = [0, 0];
    let aheadOf: unknown;
    const tick = (now: number) => {
      asked = requestAnimationFrame(tick);
      clock ??= new PlayClock(media.fps.num / media.fps.den, now);
      const frame = frameInSight();
      const at = latest.current;
      // asked for anew on every frame, and when an edit has changed what is to come
      if (aheadOf !== at) {
        aheadOf = at;
        lookAhead(frame);
      }
      if (!clock.isDue(now) || answeredRef.current !== within(span, frame)) return;
      const next = at(after(frame));
      if (next && !frameClient().isReady(next)) return;
      clock.advance(now);
      passFrame(after(frame));
      lookAhead(after(frame));
      if (++shown % 8 === 0) rateFeed.publish(clock.fps);
    };
    const lookAhead = (frame: number) =>
      frameClient().ahead(
        Array.from({ length: Math.min(AHEAD, played.to - played.from + 1) }, (_, k) =>
          latest.current(after(frame, k + 1)),
        ).filter((t) => t !== undefined),
      );
    asked = requestAnimationFrame(tick);
    return () => {
      cancelAnimationFrame(asked);
      frameClient().ahead([]);
      restOnFrame();
    };
  }, [playing, media, span, loop, answeredRef]);
}
