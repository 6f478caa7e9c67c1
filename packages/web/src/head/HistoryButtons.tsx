import { Button, Tooltip } from 'antd';
import { Redo2, Undo2 } from 'lucide-react';
import type { ReactNode } from 'react';
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
      <StepButton name="Undo" over={undo} icon={<Undo2 size={16} />} onStep={() => step('undo')} />
      <StepButton name="Redo" over={redo} icon={<Redo2 size={16} />} onStep={() => step('redo')} />
    </>
  );
}

/** A button for one direction; `over`: what it steps over, null where there is nothing. */
function StepButton({
  name,
  over,
  icon,
  onStep,
}: {
  name: string;
  over: string | null;
  icon: ReactNode;
  onStep: () => void;
}) {
  return (
    <Tooltip title={over ? `${name}: ${over}` : `Nothing to ${name.toLowerCase()}`}>
      <Button
        size="small"
        type="text"
        aria-label={name}
        aria-description={over ?? undefined}
        disabled={!over}
        onClick={onStep}
      >
        {icon}
      </Button>
    </Tooltip>
  );
}
