import { useEffect, useMemo, useRef } from 'react';
import type { Layer } from '@mellow/contract';
import { useAppSelector } from '../../app/store.ts';
import { frameRefOf, layerOn, withCarried } from '../../inhand/frameScene.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { useAnswer } from '../../inhand/useAnswer.ts';
import { drawPicture } from '../../ui/drawPicture.ts';

const WIDTH = 72;
/** A live thumbnail of the layer's own matte on the frame in hand. */
export function OwnMatte({
  layer,
  inHand: { document, shot, media, motions },
  frame,
}: {
  layer: Layer;
  inHand: InHand;
  frame: number;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const ready = media && document.proxies[media.id]?.state === 'done';
  const height = media ? Math.round((WIDTH * media.height) / media.width) : 40;
  // while a hand moves the lead worker is the picture's
  const isDrafted = useAppSelector((s) => s.draft.sighting !== undefined || s.draft.track !== undefined);
  const task = useMemo(() => {
    if (!shot || !media || !ready || isDrafted) return undefined;
    const ref = frameRefOf(document, shot, media, Math.min(frame, media.frames - 1));
    const now = layerOn(document, layer, frame, motions);
    return { kind: 'layer' as const, frame: withCarried(ref, document, [now]), layer: now, width: WIDTH };
  }, [document, layer, shot, media, frame, ready, motions, isDrafted]);
  const matte = useAnswer(task, { besides: true });
  useEffect(() => {
    if (matte) drawPicture(canvas.current!, matte);
  }, [matte]);
  return (
    <canvas
      ref={canvas}
      width={WIDTH}
      height={height}
      style={{ borderRadius: 3, background: '#000' }}
      role="img"
      aria-label={`Matte of ${layer.name}`}
    />
  );
}
