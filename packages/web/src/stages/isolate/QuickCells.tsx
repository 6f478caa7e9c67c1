import { Button } from 'antd';
import { useEffect, useRef } from 'react';
import { drawFilling } from '../../ui/drawPicture.ts';
import { DOUBTFUL } from './carriedState.ts';
import { QUICK_CELL, type QuickCell } from './useQuickCarry.ts';

/** What strokes will select on the frames beside theirs, found quickly; a click goes there. */
export function QuickCells({ cells, onGo }: { cells: readonly QuickCell[]; onGo: (frame: number) => void }) {
  if (cells.length === 0) return null;
  return (
    <>
      <div className="quiet">Where these strokes lead, at a glance:</div>
      <div className="quick-cells" role="list" aria-label="Frames beside">
        {cells.map(({ frame, cell }) => (
          <Cell key={frame} frame={frame} cell={cell} onGo={() => onGo(frame)} />
        ))}
      </div>
    </>
  );
}

function saidOf(cell: QuickCell['cell']): string {
  if (cell === undefined) return '…';
  if (cell === null) return 'no answer';
  return cell.certainty === 0 ? 'out of sight' : cell.certainty.toFixed(2);
}

function Cell({ frame, cell, onGo }: QuickCell & { onGo: () => void }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (cell?.picture) drawFilling(canvas.current!, cell.picture);
  }, [cell]);
  const isDoubtful = !!cell && cell.certainty < DOUBTFUL;
  return (
    <div role="listitem">
      <Button
        type="text"
        className="filmstrip-cell"
        aria-label={`Frame ${frame}, at a glance: ${saidOf(cell)}`}
        title="A quick answer: the frame, and how sure it is, up to 1. A click goes there."
        {...(isDoubtful && { 'data-mark': 'doubtful' })}
        onClick={onGo}
      >
        <canvas
          ref={canvas}
          {...QUICK_CELL}
          style={{ width: '100%', visibility: cell?.picture ? 'visible' : 'hidden' }}
        />
        <span className="mono">
          {isDoubtful ? '! ' : ''}
          {frame}
        </span>
        <span className="mono quiet">{saidOf(cell)}</span>
      </Button>
    </div>
  );
}
