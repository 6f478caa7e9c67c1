import { useEffect, useRef, useState } from 'react';
import type { Shot } from '@mellow/contract';
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
  const middle = Math.floor(media.frames / 2);
  const looked = { document, shot, media, colourwayId, pieceId: piece?.id, motions: motionsOf(shot.id) };
  // all that the picture depends on, as text: most edits leave it as it is
  const key = isReady && isSighted ? JSON.stringify(frameSceneAt(looked, middle, false)) : '';
  const [drawn, setDrawn] = useState<string>();
  useEffect(() => {
    if (!key) return;
    const task = { kind: 'crop', ...(JSON.parse(key) as object) } as CropTask;
    return queue.want(shot.id, task, (crop) => {
      if (!crop || !canvas.current) return;
      drawFilling(canvas.current, crop.after);
      setDrawn(piece?.id);
    });
  }, [key, shot.id, piece?.id]);
  const isCropShown = key !== '' && drawn === piece?.id;
  return (
    <span className="ribbon-picture">
      {isReady && !isCropShown && <img alt="" src={frameUrl(media.id, middle, 'thumb')} />}
      <canvas ref={canvas} width={192} height={112} hidden={!isCropShown} />
    </span>
  );
}
