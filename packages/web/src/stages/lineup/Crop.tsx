import { useEffect, useRef } from 'react';
import type { Piece, Shot } from '@mellow/contract';
import { frameClient } from '../../engine/frameClient.ts';
import { frameSceneAt } from '../../inhand/frameScene.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { drawDivided } from './drawDivided.ts';

interface Props {
  piece: Piece;
  shot: Shot;
  inHand: InHand;
}

/** The piece on the shot's middle frame: source on the left of the divide, result on the right. */
export function Crop({ piece, shot, inHand: { document, colourwayId, motionsOf } }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const media = document.media.find((m) => m.id === shot.mediaId)!;
  const isReady = document.proxies[media.id]?.state === 'done';
  useEffect(() => {
    if (!isReady) return;
    let isWanted = true;
    const looked = { document, shot, media, colourwayId, pieceId: piece.id, motions: motionsOf(shot.id) };
    const scene = frameSceneAt(looked, Math.floor(media.frames / 2));
    frameClient()
      .ask({ kind: 'crop', ...scene })
      .then(
        (answer) => isWanted && canvas.current && drawDivided(canvas.current, answer),
        () => undefined,
      );
    return () => void (isWanted = false);
  }, [document, shot, piece, colourwayId, media, isReady, motionsOf]);
  return (
    <canvas
      ref={canvas}
      className="crop"
      width={552}
      height={360}
      role="img"
      aria-label={`${piece.name} in ${shot.name}: before on the left, after on the right`}
    />
  );
}
