import { Button, Segmented } from 'antd';
import { useEffect, type ReactNode } from 'react';
import { useAppSelector } from '../../app/store.ts';
import { keysOf } from '../../keys/keyTable.ts';
import { keysText } from '../../keys/keyText.ts';
import { useCommands } from '../../keys/useCommands.ts';
import { CELL_SIZES, SHOWN, SHOWN_TEXT, type CellSize, type Shown } from './lineupLook.ts';
import type { Lineup } from './useLineup.ts';
import { SplitButton } from '../../ui/SplitButton.tsx';

interface Props {
  shown: Shown;
  onShow: (shown: Shown) => void;
  /** Held: everything before. */
  onHold: (isHeld: boolean) => void;
  size: CellSize;
  onSize: (size: CellSize) => void;
  lineup: Lineup;
  onSolveAll: () => void;
  onApplyAll: () => void;
  /** Stands last. */
  children?: ReactNode;
}
/** What all cells show, how large they are, and what is done to all of them at once. */
export function LineupBar({ shown, onShow, onHold, size, onSize, lineup, onSolveAll, onApplyAll, children }: Props) {
  useCommands({
    sourceHeld: { run: () => onHold(true), release: () => onHold(false) },
    solveAll: { run: onSolveAll, cannot: lineup.solved.size > 0 ? 'solved: apply or leave it' : undefined },
  });
  useEffect(() => () => onHold(false), [onHold]);
  const held = useAppSelector((s) => keysOf('sourceHeld', s.keys));
  return (
    <div className="viewerbar">
      <Segmented
        size="small"
        aria-label="Cells show"
        options={SHOWN.map((value) => ({ value, label: SHOWN_TEXT[value] }))}
        value={shown}
        onChange={onShow}
      />
      {held.length > 0 && (
        <span className="quiet beside-bar">
          hold <kbd>{keysText(held)}</kbd>: before
        </span>
      )}
      <span style={{ flex: 1 }} />
      <Segmented size="small" aria-label="Size" options={CELL_SIZES} value={size} onChange={onSize} />
      {lineup.solved.size > 0 ? (
        <SplitButton
          size="small"
          type="primary"
          onClick={onApplyAll}
          more="Trims, otherwise"
          ways={[{ key: 'leave', label: 'Leave all as they are', onClick: lineup.drop }]}
        >
          Apply all trims
        </SplitButton>
      ) : (
        <Button size="small" loading={lineup.busy === 'solve all'} onClick={onSolveAll}>
          Solve all
        </Button>
      )}
      {children}
    </div>
  );
}
