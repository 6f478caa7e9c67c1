import { useEffect, useState } from 'react';
import type { Media } from '@mellow/contract';
import { store, useAppSelector } from '../app/store.ts';
import { placeChanged } from '../app/viewSlice.ts';

/** Plays the shot, or its loop, by the clock: a frame that comes too late is dropped and counted, never shown late. */
export function usePlayback(media: Media): { fps: number; dropped: number } | undefined {
  const playing = useAppSelector((s) => s.view.playing);
  const loop = useAppSelector((s) => s.view.place.loop);
  const [rate, setRate] = useState<{ fps: number; dropped: number }>();
  useEffect(() => {
    if (!playing) return setRate(undefined);
    const fps = media.fps.num / media.fps.den;
    const from = loop?.from ?? 0;
    const length = (loop?.to ?? media.frames - 1) - from + 1;
    const start = performance.now();
    const first = Math.min(Math.max(store.getState().view.place.frame - from, 0), length - 1);
    let [shown, dropped, previous, asked] = [0, 0, first, 0];
    const tick = (now: number) => {
      const due = first + Math.floor(((now - start) / 1000) * fps);
      if (due !== previous) {
        dropped += Math.max(due - previous - 1, 0);
        shown++;
        previous = due;
        store.dispatch(placeChanged({ frame: from + (due % length) }));
        if (shown % 8 === 0) setRate({ fps: shown / ((now - start) / 1000), dropped });
      }
      asked = requestAnimationFrame(tick);
    };
    asked = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(asked);
  }, [playing, media, loop]);
  return rate;
}
