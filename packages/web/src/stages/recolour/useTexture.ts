import { useMemo } from 'react';
import type { TextureFigures } from '@mellow/core';
import { useAppSelector } from '../../app/store.ts';
import { frameSceneAt } from '../../inhand/frameScene.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { useAnswer } from '../../inhand/useAnswer.ts';
import { useFrame } from '../../inhand/useFrame.ts';

const REST_MS = 500;

/** The surface of the piece on the frame in hand, before and after, measured when the hand rests. */
export function useTexture(inHand: InHand): TextureFigures | undefined {
  const { document, shot, media, piece, sighting, colourwayId, motions } = inHand;
  const frame = useFrame(inHand);
  const playing = useAppSelector((s) => s.playing);
  const hasMatte = Boolean(sighting?.layers.length);
  const pieceId = piece?.id;
  const task = useMemo(() => {
    if (!shot || !media || !hasMatte || playing || document.proxies[media.id]?.state !== 'done') return undefined;
    const looked = { document, shot, media, colourwayId, pieceId, motions };
    return { kind: 'texture' as const, ...frameSceneAt(looked, frame, false) };
  }, [document, shot, media, pieceId, hasMatte, colourwayId, motions, frame, playing]);
  return useAnswer(task, { restMs: REST_MS });
}
