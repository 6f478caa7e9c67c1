import { useEffect, useRef, useState } from 'react';
import type { ProbedPixel } from '@mellow/core';
import { useAppDispatch } from '../app/store.ts';
import { frameClient } from '../engine/frameClient.ts';
import type { ShowTask } from '../engine/frameProtocol.ts';
import { probed, type Probed } from '../view/pointedSlice.ts';

type Spot = { x: number; y: number } | undefined;

/** Proxies are of 8 bits. */
const FULL = 255;
const shownPixel = ({ oklab, before, after }: ProbedPixel, column: number): Probed => {
  const [r, g, b] = (after ?? before).codes;
  return { oklab, codes: [r / FULL, g / FULL, b / FULL], column };
};

/** What lies under the pointer: one question at a time, the newest place next. */
export function useProbe(at: Spot, task: ShowTask | undefined, width: number | undefined) {
  const dispatch = useAppDispatch();
  const [probe, setProbe] = useState<ProbedPixel>();
  const wanted = useRef<{ at: Spot; task: ShowTask | undefined }>({ at, task });
  const asking = useRef(false);
  useEffect(() => {
    wanted.current = { at, task };
    const tell = (pixel: ProbedPixel | undefined) => {
      setProbe(pixel);
      dispatch(probed(pixel && at && width ? shownPixel(pixel, at.x / width) : null));
    };
    if (!at || !task) return tell(undefined);
    if (asking.current) return;
    asking.current = true;
    const ask = async () => {
      for (let now = wanted.current; now.at && now.task;) {
        const question = { kind: 'probe' as const, x: now.at.x, y: now.at.y, task: now.task };
        tell(
          await frameClient()
            .askLead(question)
            .catch(() => undefined),
        );
        if (wanted.current === now) break;
        now = wanted.current;
      }
      asking.current = false;
    };
    void ask();
  }, [at, task, width, dispatch]);
  return probe;
}
