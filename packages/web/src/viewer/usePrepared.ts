import { useEffect, useState } from 'react';
import { debounce } from 'throttle-debounce';
import type { Media, Span } from '@mellow/contract';
import { useAppSelector } from '../app/store.ts';
import { frameClient } from '../engine/frameClient.ts';
import type { ShowTask } from '../engine/frameProtocol.ts';
import { codesUrl } from '../engine/frameUrl.ts';
import { isIsolated } from '../engine/sharedPictures.ts';
import { REST_MS } from '../inhand/useCalmly.ts';
import { framesAround, framesToPlay } from './framesAround.ts';
import { asPassed } from './useShowTask.ts';

/** What is likely to be looked at next is made ready when the hand rests on a frame: it plays on from there at once. */
export function usePrepared(
  media: Media | undefined,
  span: Span | undefined,
  frame: number,
  taskAt: (frame: number) => ShowTask | undefined,
): void {
  const loop = useAppSelector((s) => s.where.loop);
  const [atRest] = useState(() =>
    debounce(REST_MS, (footage: Media, around: Span, played: Span, at: number, task: typeof taskAt) => {
      const next = framesToPlay(at, played).flatMap((f) => task(f) ?? []);
      // without proxies there is nothing to decode either
      if (next.length === 0) return;
      // memory that is not shared would have to hold each picture for every worker
      const pictures = isIsolated ? framesAround(at, around).map((f) => codesUrl(footage, f)) : [];
      frameClient().prepare(next.map(asPassed), pictures);
    }),
  );
  useEffect(() => {
    if (media && span) atRest(media, span, loop ?? span, frame, taskAt);
    return () => atRest.cancel({ upcomingOnly: true });
  }, [atRest, media, span, loop, frame, taskAt]);
}
