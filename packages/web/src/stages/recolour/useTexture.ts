import { useEffect, useState } from 'react';
import type { TextureFigures } from '@mellow/core';
import { useAppSelector } from '../../app/store.ts';
import { frameClient } from '../../engine/frameClient.ts';
import { frameSceneAt } from '../../inhand/frameScene.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { useFrame } from '../../inhand/useFrame.ts';

const REST_MS = 500;

/** The surface of the piece on the frame in hand, before and after, measured when the hand rests. */
export function useTexture(inHand: InHand): TextureFigures | undefined {
  const { document, shot, media, piece, sighting, colourwayId, motions } = inHand;
  const frame = useFrame(inHand);
  const playing = useAppSelector((s) => s.playing);
  const [figures, setFigures] = useState<TextureFigures | undefined>();
  const hasMatte = Boolean(sighting?.layers.length);
  useEffect(() => {
    if (!shot || !media || !hasMatte || playing || document.proxies[media.id]?.state !== 'done')
      return setFigures(undefined);
    let isWanted = true;
    const looked = { document, shot, media, colourwayId, pieceId: piece?.id, motions };
    const ask = () =>
      frameClient()
        .ask({ kind: 'texture', ...frameSceneAt(looked, frame, false) })
        .then(
          (found) => isWanted && setFigures(found),
          () => undefined,
        );
    const timer = setTimeout(() => void ask(), REST_MS);
    return () => {
      isWanted = false;
      clearTimeout(timer);
    };
  }, [document, shot, media, piece?.id, hasMatte, colourwayId, motions, frame, playing]);
  return figures;
}
