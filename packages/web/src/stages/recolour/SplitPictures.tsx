import { useEffect, useRef, useState } from 'react';
import { frameClient } from '../../engine/frameClient.ts';
import { frameSceneAt } from '../../inhand/frameScene.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { useFrame } from '../../inhand/useFrame.ts';
import { drawPicture } from '../../ui/drawPicture.ts';

const WIDTH = 140;

/** What a repaint takes for the body of the piece and for its sheen, on the frame in hand. */
export function SplitPictures({ inHand }: { inHand: InHand }) {
  const { document, shot, media, piece, sighting, colourwayId, motions } = inHand;
  const frame = useFrame(inHand);
  const body = useRef<HTMLCanvasElement>(null);
  const sheen = useRef<HTMLCanvasElement>(null);
  const [isSplit, setSplit] = useState(true);
  useEffect(() => {
    if (!shot || !media || !sighting || document.proxies[media.id]?.state !== 'done') return;
    const wanted = new AbortController();
    const looked = { document, shot, media, colourwayId, pieceId: piece?.id, motions };
    frameClient()
      .ask({ kind: 'split', width: WIDTH, ...frameSceneAt(looked, frame, false) }, wanted.signal)
      .then(
        (answer) => {
          setSplit(answer !== undefined);
          if (answer && body.current && sheen.current) {
            drawPicture(body.current, answer.body);
            drawPicture(sheen.current, answer.sheen);
          }
        },
        () => undefined,
      );
    return () => wanted.abort();
  }, [document, shot, media, sighting, piece?.id, colourwayId, motions, frame]);
  return (
    <>
      <div className="row" style={{ alignItems: 'flex-start' }} hidden={!isSplit}>
        <figure className="split">
          <canvas ref={body} role="img" aria-label="Body, without sheen" />
          <figcaption className="quiet">body</figcaption>
        </figure>
        <figure className="split">
          <canvas ref={sheen} role="img" aria-label="Sheen alone" />
          <figcaption className="quiet">sheen</figcaption>
        </figure>
      </div>
      {!isSplit && <div className="quiet">Sheen is not told apart in this shot: repaint it here.</div>}
    </>
  );
}
