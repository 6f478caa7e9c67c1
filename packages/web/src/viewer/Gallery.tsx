import { Button, Modal, Tooltip } from 'antd';
import { LayoutGrid } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Colourway } from '@mellow/contract';
import { useAppDispatch } from '../app/store.ts';
import { frameSceneAt } from '../inhand/frameScene.ts';
import type { InHand } from '../inhand/inHand.ts';
import { useAnswer } from '../inhand/useAnswer.ts';
import { useFrame } from '../inhand/useFrame.ts';
import { deltaEOf, toleranceOf } from '../ui/colour.ts';
import { DeltaE } from '../ui/DeltaE.tsx';
import { drawPicture } from '../ui/drawPicture.ts';
import { moved } from '../view/whereSlice.ts';

const WIDTH = 400;

/** The frame in hand in all colourways, side by side. */
export function GalleryButton({ inHand }: { inHand: InHand }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <Tooltip title="This frame in all colourways">
        <Button size="small" type="text" aria-label="Gallery of colourways" onClick={() => setOpen(true)}>
          <LayoutGrid size={15} />
        </Button>
      </Tooltip>
      <Modal
        title="This frame in all colourways"
        open={isOpen}
        footer={null}
        width={900}
        destroyOnHidden
        onCancel={() => setOpen(false)}
      >
        <div className="gallery">
          {inHand.document.colourways.map(({ value }) => (
            <Exhibit key={value.id} colourway={value} inHand={inHand} onTaken={() => setOpen(false)} />
          ))}
        </div>
      </Modal>
    </>
  );
}

interface Props {
  colourway: Colourway;
  inHand: InHand;
  onTaken: () => void;
}
function Exhibit({ colourway, inHand, onTaken }: Props) {
  const { document, shot, media, piece, motions } = inHand;
  const dispatch = useAppDispatch();
  const frame = useFrame(inHand);
  const canvas = useRef<HTMLCanvasElement>(null);
  const pieceId = piece?.id;
  const task = useMemo(() => {
    if (!shot || !media) return undefined;
    const looked = { document, shot, media, colourwayId: colourway.id, pieceId, motions };
    return { kind: 'thumbnail' as const, width: WIDTH, ...frameSceneAt(looked, frame, false) };
  }, [document, shot, media, colourway.id, pieceId, motions, frame]);
  const answer = useAnswer(task);
  useEffect(() => {
    if (answer) drawPicture(canvas.current!, answer.picture);
  }, [answer]);
  const requirement = document.requirements.find(
    (r) => r.value.pieceId === piece?.id && r.value.colourwayId === colourway.id,
  )?.value;
  return (
    <button
      type="button"
      className="exhibit"
      aria-current={colourway.id === inHand.colourwayId}
      onClick={() => {
        dispatch(moved({ colourwayId: colourway.id }));
        onTaken();
      }}
    >
      <canvas ref={canvas} width={WIDTH} height={225} role="img" aria-label={`In ${colourway.name}`} />
      <span className="row">
        <strong className="grow">{colourway.name}</strong>
        <span className="quiet">{requirement?.name}</span>
      </span>
      {answer?.measured && (
        <DeltaE
          value={deltaEOf([answer.measured.after], requirement, shot)}
          tolerance={toleranceOf(requirement, document.project.value.tolerance)}
          trust={undefined}
        />
      )}
    </button>
  );
}
