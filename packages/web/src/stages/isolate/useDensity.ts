import { useMemo } from 'react';
import type { KeyLayer } from '@mellow/contract';
import type { ColourDensity } from '@mellow/core';
import type { FrameRef } from '../../engine/frameProtocol.ts';
import { frameRefOf } from '../../inhand/frameScene.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { useAnswer } from '../../inhand/useAnswer.ts';

/** The colours of the frame in hand, as a key reads them; undefined until they have been counted. */
export function useDensity(
  { document, shot, media }: InHand,
  frame: number,
  reads: NonNullable<KeyLayer['reads']>,
): ColourDensity | undefined {
  const isReady = media && document.proxies[media.id]?.state === 'done';
  // by its content: the frame is another object after every edit
  const ref = isReady && shot && JSON.stringify(frameRefOf(document, shot, media, frame));
  const task = useMemo(
    () => (ref ? { kind: 'density' as const, frame: JSON.parse(ref) as FrameRef, reads } : undefined),
    [ref, reads],
  );
  return useAnswer(task, { besides: true });
}
