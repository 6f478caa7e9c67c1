import { Button, Checkbox, Modal, Progress } from 'antd';
import { memo, useEffect, useRef, useState } from 'react';
import { frameCount } from '@mellow/contract';
import type { CutOutAnswer } from '../../engine/frameProtocol.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { drawFilling } from '../../ui/drawPicture.ts';
import { CELL, isJump, useFilmstrip } from './useFilmstrip.ts';

interface Props {
  inHand: InHand;
  /** Frames that something else is unsure of. */
  doubtful: ReadonlySet<number>;
  frame: number;
  onGo: (frame: number) => void;
  onClose: () => void;
}

/** What is selected on every frame of the shot, side by side: a wrong one is seen at once. A click goes there. */
export default function Filmstrip({ inHand, doubtful, frame, onGo, onClose }: Props) {
  const { frames, cells } = useFilmstrip(inHand);
  const [onlyMarked, setOnlyMarked] = useState(false);
  const shares = frames.map((f) => cells.get(f)?.share);
  const marked = new Map(frames.map((f, k) => [f, markOf(isJump(shares, k), doubtful.has(f))]));
  const shown = frames.filter((f) => !onlyMarked || marked.get(f) !== undefined);
  const { piece, shot, span } = inHand;
  const every = span && frames.length > 0 ? Math.ceil(frameCount(span) / frames.length) : 1;
  return (
    <Modal open width="min(1180px, 94vw)" footer={null} title={`${piece?.name} in ${shot?.name}`} onCancel={onClose}>
      <div className="row">
        <Checkbox checked={onlyMarked} onChange={(e) => setOnlyMarked(e.target.checked)}>
          Only frames that stand out
        </Checkbox>
        <span className="quiet grow">
          {every > 1 ? `One frame in ${every}. ` : ''}A mark: its size jumps, or it was carried there unsurely.
        </span>
        {cells.size < frames.length && (
          <Progress
            style={{ width: 160, margin: 0 }}
            size="small"
            strokeColor="currentColor"
            aria-label="Filmstrip"
            percent={Math.round((100 * cells.size) / frames.length)}
          />
        )}
      </div>
      <div className="filmstrip" role="list" aria-label="Frames">
        {shown.map((f) => (
          <Cell
            key={f}
            frame={f}
            cell={cells.get(f)}
            mark={marked.get(f)}
            isHere={f === frame}
            onGo={() => {
              onGo(f);
              onClose();
            }}
          />
        ))}
        {shown.length === 0 && <div className="quiet">No frame stands out.</div>}
      </div>
    </Modal>
  );
}
function markOf(jumps: boolean, isDoubtful: boolean): string | undefined {
  if (jumps) return 'its size jumps';
  return isDoubtful ? 'carried unsurely' : undefined;
}

interface CellProps {
  frame: number;
  cell: CutOutAnswer | undefined;
  mark: string | undefined;
  isHere: boolean;
  onGo: () => void;
}
const Cell = memo(function Cell({ frame, cell, mark, isHere, onGo }: CellProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (cell?.picture) drawFilling(canvas.current!, cell.picture);
  }, [cell]);
  const nothing = cell && !cell.picture ? ', nothing selected' : '';
  return (
    <div role="listitem">
      <Button
        type="text"
        className="filmstrip-cell"
        aria-label={`Frame ${frame}${nothing}${mark ? `, ${mark}` : ''}`}
        {...(isHere && { 'aria-current': 'true' as const })}
        {...(mark && { 'data-mark': mark })}
        onClick={onGo}
      >
        <canvas ref={canvas} width={CELL.width} height={CELL.height} style={{ width: CELL.width / 2 }} />
        <span className="mono">
          {mark ? '! ' : ''}
          {frame}
        </span>
      </Button>
    </div>
  );
});
