import { Button, Dropdown } from 'antd';
import { Plus } from 'lucide-react';
import { KEY_KINDS, KEYS, type KeyKind } from '@mellow/core';
import { useAppDispatch } from '../../app/store.ts';
import { newKey, newPlate, shapeFromText } from '../../commands/layers.ts';
import { tellProblem } from '../../editing/editing.ts';
import { askForText } from '../../ui/saveFile.ts';
import { toolChosen, type ToolName } from '../../view/handSlice.ts';
import type { Stack } from './useStack.ts';

/** Each kind of layer with a word on when it is the one to take. */
const WHEN_KEY: Record<KeyKind, string> = {
  range: 'most things: an even colour, whatever its light',
  rgb: 'a colour that one channel tells apart',
  luma: 'black, white, grey; or shadows within another layer',
  sample: 'folds and gradients, with a look-alike near',
};
const DRAWN: readonly [tool: ToolName, label: string, when: string][] = [
  ['rectangle', 'Rectangle', 'a loose bound round a key'],
  ['ellipse', 'Ellipse', 'round things, wheels, lamps'],
  ['spline', 'Spline', 'an outline, drawn point by point'],
  ['gradient', 'Gradient', 'from full to nothing, over the picture'],
  ['brush-in', 'Brush', 'touching up by hand: a strap, an edge, a frame'],
  ['scribble-in', 'Scribble', 'no colour of its own, and an outline too long to draw'],
];
const item = (key: string, name: string, when: string) => ({
  key,
  label: (
    <span className="add-item">
      {name}
      <span className="quiet">{when}</span>
    </span>
  ),
});

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
  const acts: Record<string, () => void> = {
    plate: () => add(newPlate(layers), 'Add a plate matte'),
    file: () => void addFromFile(undefined),
    'file here': () => void addFromFile(frame),
  };
  for (const kind of KEY_KINDS) acts[kind] = () => addKey(kind);
  for (const [tool] of DRAWN) acts[tool] = () => void dispatch(toolChosen(tool));
  const items = [
    {
      type: 'group' as const,
      label: 'By colour',
      children: KEY_KINDS.map((kind) => item(kind, KEYS[kind].label, WHEN_KEY[kind])),
    },
    { type: 'group' as const, label: 'Drawn', children: DRAWN.map((each) => item(...each)) },
    {
      type: 'group' as const,
      label: 'From outside',
      children: [
        item('plate', 'Plate matte', 'a matte somebody has made, as footage'),
        item('file', 'Path from a file', 'JSON or SVG, frames as numbered'),
        item('file here', 'Path from a file, from here', `its first frame on ${frame}`),
      ],
    },
  ];
  return (
    <Dropdown trigger={['click']} menu={{ items, onClick: ({ key }) => acts[key]!() }}>
      <Button size="small" icon={<Plus size={14} />} aria-label="Add a layer">
        Add
      </Button>
    </Dropdown>
  );
}
