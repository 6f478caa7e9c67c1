import { Button, Dropdown } from 'antd';
import { Plus } from 'lucide-react';
import { KEY_KINDS, KEYS, type KeyKind } from '@mellow/core';
import { useAppDispatch } from '../../app/store.ts';
import { newKey, newPlate, shapeFromText } from '../../commands/layers.ts';
import { tellProblem } from '../../editing/editing.ts';
import { askForText } from '../../ui/saveFile.ts';
import { toolChosen, type ToolName } from '../../view/handSlice.ts';
import type { Stack } from './useStack.ts';

const KEY_ITEMS = KEY_KINDS.map((kind) => ({ key: kind, label: KEYS[kind].label }));
const DRAWN: { key: ToolName; label: string }[] = [
  { key: 'rectangle', label: 'Rectangle' },
  { key: 'ellipse', label: 'Ellipse' },
  { key: 'spline', label: 'Spline' },
  { key: 'gradient', label: 'Gradient' },
  { key: 'scribble-in', label: 'Scribble' },
];

/** Adds a key, a drawn layer or a matte from a file to the stack. */
export function AddMenu({ stack: { layers, add, frame } }: { stack: Stack }) {
  const dispatch = useAppDispatch();
  const addKey = (kind: KeyKind) => {
    add(newKey(layers, kind), `Add: ${KEYS[kind].label}`);
    dispatch(toolChosen('pick-add'));
  };
  const addFromFile = async (first: number | undefined) => {
    const text = await askForText('.json,.svg,.txt');
    if (text === undefined) return;
    try {
      const made = shapeFromText(layers, text, first);
      add(made, `Take in ${made.name}`);
    } catch (error) {
      tellProblem(error);
    }
  };
  const others: Record<string, () => void> = {
    plate: () => add(newPlate(layers), 'Add a plate matte'),
    file: () => void addFromFile(undefined),
    'file here': () => void addFromFile(frame),
  };
  const items = [
    ...DRAWN,
    { key: 'plate', label: 'Plate matte' },
    { key: 'file', label: 'From a file (JSON, SVG), frames as numbered' },
    { key: 'file here', label: `From a file, first frame on ${frame}` },
  ];
  const addDrawn = (key: string) => (others[key] ?? (() => dispatch(toolChosen(key as ToolName))))();
  return (
    <>
      <Dropdown trigger={['click']} menu={{ items: KEY_ITEMS, onClick: ({ key }) => addKey(key as KeyKind) }}>
        <Button size="small" icon={<Plus size={14} />}>
          Key
        </Button>
      </Dropdown>
      <Dropdown trigger={['click']} menu={{ items, onClick: ({ key }) => addDrawn(key) }}>
        <Button size="small" icon={<Plus size={14} />}>
          Shape
        </Button>
      </Dropdown>
    </>
  );
}
