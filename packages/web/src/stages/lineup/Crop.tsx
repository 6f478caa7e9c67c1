import { useEffect, useRef } from 'react';
import { framesOf, middleOf, type Piece, type Shot } from '@mellow/contract';
import { frameClient } from '../../engine/frameClient.ts';
import { frameSceneAt } from '../../inhand/frameScene.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { drawCrop } from './drawCrop.ts';
import type { Shown } from './lineupLook.ts';

interface Props {
  piece: Piece;
  shot: Shot;
  inHand: InHand;
  shown: Shown;
  size: { width: number; crop: number };
}
/** Pixels of the canvas for one of the page: fine screens show more. */
const FINE = 2;

/** The piece on the shot's middle frame, filling its cell: so it has about the same size in all of them. */
export function Crop({ piece, shot, inHand, shown, size }: Props) {
  const { document, colourwayId, motionsOf } = inHand;
  const canvas = useRef<HTMLCanvasElement>(null);
  const media = document.media.find((m) => m.id === shot.mediaId)!;
  const isReady = document.proxies[media.id]?.state === 'done';
  useEffect(() => {
    if (!isReady) return;
    const wanted = new AbortController();
    const ways = shown === 'colourways' ? document.colourways.map((c) => c.value.id) : [colourwayId];
    const looked = { document, shot, media, pieceId: piece.id, motions: motionsOf(shot.id) };
    const frame = middleOf(framesOf(shot, media));
    const asked = ways.map((way) =>
      frameClient().ask({ kind: 'crop', ...frameSceneAt({ ...looked, colourwayId: way }, frame) }, wanted.signal),
    );
    Promise.all(asked).then(
      (crops) => {
        if (canvas.current)
          drawCrop(
            canvas.current,
            crops.filter((c) => c !== undefined),
            shown,
          );
      },
      () => undefined,
    );
    return () => wanted.abort();
  }, [document, shot, piece, colourwayId, media, isReady, motionsOf, shown]);
  const { width, crop } = size;
  const what = { after: 'after', before: 'before', divided: 'before | after', colourways: 'in all colourways' }[shown];
  return (
    <canvas
      ref={canvas}
      className="crop"
      width={width * FINE}
      height={crop * FINE}
      style={{ width, height: crop }}
      role="img"
      aria-label={`${piece.name} in ${shot.name}, ${what}`}
    />
  );
}
