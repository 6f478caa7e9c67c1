import { useEffect, useRef } from 'react';
import type { Layer } from '@mellow/contract';
import { layerAt } from '@mellow/core';
import { useAppSelector } from '../../app/store.ts';
import { frameClient } from '../../engine/frameClient.ts';
import { frameRefOf } from '../../inhand/frameScene.ts';
import type { InHand } from '../../inhand/inHand.ts';

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
  useEffect(() => {
    if (!shot || !media || !ready || isDrafted) return;
    let wanted = true;
    void frameClient()
      .askLead({
        kind: 'layer',
        frame: frameRefOf(document, shot, media, Math.min(frame, media.frames - 1)),
        layer: layerAt(layer, frame, motions),
        width: WIDTH,
      })
      .then(
        ({ rgba, width, height: h }) =>
          wanted && canvas.current?.getContext('2d')!.putImageData(new ImageData(rgba, width, h), 0, 0),
        () => undefined,
      );
    return () => void (wanted = false);
  }, [document, layer, shot, media, frame, ready, motions, isDrafted]);
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
