import { Button, Tooltip } from 'antd';
import { Redo2, Undo2 } from 'lucide-react';
import type { ProjectDocument } from '@mellow/contract';
import { stepHistory } from '../editing/editing.ts';
import { useCommands } from '../keys/useCommands.ts';

/** Undo and redo, by button and by key; each says what it would step over. */
export function HistoryButtons({ projectId, history }: { projectId: string; history: ProjectDocument['history'] }) {
  const { undo, redo } = history;
  const step = (direction: 'undo' | 'redo') => void stepHistory(projectId, direction);
  useCommands({
    undo: {
      run: () => step('undo'),
      name: undo ? `Undo: ${undo}` : undefined,
      cannot: undo ? undefined : 'nothing done',
    },
    redo: {
      run: () => step('redo'),
      name: redo ? `Redo: ${redo}` : undefined,
      cannot: redo ? undefined : 'nothing undone',
    },
  });
  return (
    <>
      <Tooltip title={undo ? `Undo: ${undo}` : 'Nothing to undo'}>
        <Button
          size="small"
          type="text"
          aria-label="Undo"
          aria-description={undo ?? undefined}
          disabled={!undo}
          onClick={() => step('undo')}
        >
          <Undo2 size={16} />
        </Button>
      </Tooltip>
      <Tooltip title={redo ? `Redo: ${redo}` : 'Nothing to redo'}>
        <Button
          size="small"
          type="text"
          aria-label="Redo"
          aria-description={redo ?? undefined}
          disabled={!redo}
          onClick={() => step('redo')}
        >
          <Redo2 size={16} />
        </Button>
      </Tooltip>
    </>
  );
}
