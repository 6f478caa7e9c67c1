import { useEffect, useRef, useState } from 'react';
import { framesOf, middleOf, type Shot } from '@mellow/contract';
import { frameClient } from '../engine/frameClient.ts';
import type { CropTask } from '../engine/frameProtocol.ts';
import { frameUrl } from '../engine/frameUrl.ts';
import { PictureQueue } from '../engine/pictureQueue.ts';
import { frameSceneAt } from '../inhand/frameScene.ts';
import type { InHand } from '../inhand/inHand.ts';
import { drawFilling } from '../ui/drawPicture.ts';

const queue = new PictureQueue((task) => frameClient().ask(task));

interface Props {
  shot: Shot;
  inHand: InHand;
  isSighted: boolean;
}
/** The piece as it is in the shot where it is isolated, else the shot's middle frame. */
export function RibbonPicture({ shot, inHand, isSighted }: Props) {
  const { document, piece, colourwayId, motionsOf } = inHand;
  const canvas = useRef<HTMLCanvasElement>(null);
  const media = document.media.find((m) => m.id === shot.mediaId)!;
  const isReady = document.proxies[media.id]?.state === 'done';
  const middle = middleOf(framesOf(shot, media));
  const motions = motionsOf(shot.id);
  const pieceId = piece?.id;
  const isCropped = isReady && isSighted;
  const [drawn, setDrawn] = useState<string>();
  // all that the last picture depended on, as text: most edits leave it as it is
  const made = useRef('');
  useEffect(() => {
    if (!isCropped) return;
    // a moving hand changes the document all the time: nothing is put together before it rests
    const make = (): CropTask | undefined => {
      const scene = frameSceneAt({ document, shot, media, colourwayId, pieceId, motions }, middle, false);
      const key = JSON.stringify(scene);
      if (key === made.current) return undefined;
      made.current = key;
      return { kind: 'crop', ...scene };
    };
    return queue.want(shot.id, make, (crop) => {
      // what could not be made is asked for again with the next edit
      if (!crop) made.current = '';
      if (!crop || !canvas.current) return;
      drawFilling(canvas.current, crop.after);
      setDrawn(pieceId);
    });
  }, [isCropped, document, shot, media, colourwayId, pieceId, motions, middle]);
  const isCropShown = isCropped && drawn === pieceId;
  return (
    <span className="ribbon-picture">
      {isReady && !isCropShown && <img alt="" src={frameUrl(media.id, middle, 'thumb')} />}
      <canvas ref={canvas} width={192} height={112} hidden={!isCropShown} />
    </span>
  );
}
