import { useEffect, useRef } from 'react';
import { framesOf, middleOf, type Shot } from '@mellow/contract';
import { frameClient } from '../../engine/frameClient.ts';
import { frameSceneAt } from '../../inhand/frameScene.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { drawPicture } from '../../ui/drawPicture.ts';

/** A fine screen shows all of it, px. */
const WIDTH = 640;

/** The reference shot's middle frame as it will be rendered, to balance another by. */
export function ReferencePicture({ inHand, reference }: { inHand: InHand; reference: Shot }) {
  const { document, piece, colourwayId, motionsOf } = inHand;
  const canvas = useRef<HTMLCanvasElement>(null);
  const media = document.media.find((m) => m.id === reference.mediaId)!;
  const isReady = document.proxies[media.id]?.state === 'done';
  const motions = motionsOf(reference.id);
  useEffect(() => {
    if (!isReady) return;
    const wanted = new AbortController();
    const looked = { document, shot: reference, media, colourwayId, pieceId: piece?.id, motions };
    const scene = frameSceneAt(looked, middleOf(framesOf(reference, media)));
    void frameClient()
      .ask({ kind: 'thumbnail', ...scene, width: WIDTH }, wanted.signal)
      .then(
        ({ picture }) => canvas.current && drawPicture(canvas.current, picture),
        () => undefined,
      );
    return () => wanted.abort();
    // the shot that is balanced changes the document all the time; the reference does not
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [reference, media, isReady, colourwayId]);
  return (
    <figure className="reference">
      <canvas
        ref={canvas}
        role="img"
        aria-label={`${reference.name}, the reference shot`}
        style={{ aspectRatio: media.width / media.height }}
      />
      <figcaption className="quiet">{reference.name}, the reference shot</figcaption>
    </figure>
  );
}
