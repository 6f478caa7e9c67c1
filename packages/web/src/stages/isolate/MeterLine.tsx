import { Tooltip } from 'antd';
import { useMemo } from 'react';
import type { InHand } from '../../inhand/inHand.ts';
import { frameSceneAt } from '../../inhand/frameScene.ts';
import { useAnswer } from '../../inhand/useAnswer.ts';

const percent = (share: number) => (share > 0 && share < 0.001 ? '< 0.1 %' : `${(share * 100).toFixed(1)} %`);
/** The meter waits until the hand rests. */
const REST_MS = 180;

/** How good the whole matte is on this frame, in numbers. */
export function MeterLine({ inHand, frame }: { inHand: InHand; frame: number }) {
  const { document, shot, media, piece, sighting, colourwayId, motions } = inHand;
  const pieceId = piece?.id;
  const task = useMemo(() => {
    if (!shot || !media || !sighting || document.proxies[media.id]?.state !== 'done') return undefined;
    const looked = { document, shot, media, colourwayId, pieceId, motions };
    const scene = frameSceneAt(looked, Math.min(frame, media.frames - 1));
    return scene.index < 0 ? undefined : { kind: 'meter' as const, ...scene };
  }, [document, shot, media, sighting, pieceId, colourwayId, frame, motions]);
  const meter = useAnswer(task, { restMs: REST_MS, besides: true });
  if (!meter) return null;
  const cell = (label: string, value: string, title: string) => (
    <Tooltip title={title}>
      <span>
        <span className="quiet">{label}</span> <span className="mono">{value}</span>
      </span>
    </Tooltip>
  );
  return (
    <div
      className="row"
      role="group"
      aria-label="Matte meter"
      style={{ flexWrap: 'wrap', columnGap: 9, rowGap: 0, fontSize: 'var(--size-small)' }}
    >
      {cell('picture', percent(meter.shareOfPicture), 'Share of the picture that is selected')}
      {cell('soft', percent(meter.partlyShare), 'Of the selected pixels, how many only partly')}
      {cell('islands', String(meter.islands), 'Separate regions; one piece is usually few')}
      {cell('holes', String(meter.holes), 'Empty places enclosed by the matte')}
      {cell(
        'clipped',
        percent(meter.clippedShare),
        'Selected pixels whose source is at the end of its range: no colour to turn there',
      )}
    </div>
  );
}
