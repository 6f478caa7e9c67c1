import { useEffect, useState } from 'react';
import type { KeyLayer } from '@mellow/contract';
import type { ColourDensity } from '@mellow/core';
import { frameClient } from '../../engine/frameClient.ts';
import type { FrameRef } from '../../engine/frameProtocol.ts';
import { frameRefOf } from '../../inhand/frameScene.ts';
import type { InHand } from '../../inhand/inHand.ts';

/** The colours of the frame in hand, as a key reads them; undefined until they have been counted. */
export function useDensity(
  { document, shot, media }: InHand,
  frame: number,
  reads: NonNullable<KeyLayer['reads']>,
): ColourDensity | undefined {
  const [density, setDensity] = useState<ColourDensity>();
  const isReady = media && document.proxies[media.id]?.state === 'done';
  // by its content: the frame is another object after every edit
  const ref = shot && media && JSON.stringify(frameRefOf(document, shot, media, frame));
  useEffect(() => {
    if (!isReady || !ref) return;
    let isWanted = true;
    frameClient()
      .askLead({ kind: 'density', frame: JSON.parse(ref) as FrameRef, reads })
      .then(
        (found) => isWanted && setDensity(found),
        () => undefined,
      );
    return () => void (isWanted = false);
  }, [ref, reads, isReady]);
  return density;
}
