import { Button, Dropdown, type MenuProps } from 'antd';
import { Ellipsis } from 'lucide-react';
import type { Layer } from '@mellow/contract';
import { useAppDispatch } from '../../app/store.ts';
import { duplicated, groupedWithNext, movedBy, ungrouped } from '../../commands/layers.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { useNewest } from '../../ui/useNewest.ts';
import { layerCopied } from '../../view/handSlice.ts';
import { saveShapeFrames, saveShapeSvg } from './shapeFiles.ts';
import type { Stack } from './useStack.ts';

interface Props {
  layer: Layer;
  /** Its place in the stack. */
  at: number;
  stack: Stack;
  inHand: InHand;
}

/** What else can be done to a layer. */
export function useLayerMenu({ layer, at, stack, inHand }: Props): MenuProps {
  const { stored, save, saveLayer, frame } = stack;
  const dispatch = useAppDispatch();
  const locked = layer.locked ?? false;
  const grouped = groupedWithNext(stored, at);
  const canGroup = grouped !== undefined;
  const actions = useNewest({
    up: () => save(`Move ${layer.name}`, movedBy(stored, at, -1)),
    down: () => save(`Move ${layer.name}`, movedBy(stored, at, 1)),
    duplicate: () => save(`Duplicate ${layer.name}`, duplicated(stored, at)),
    copy: () => dispatch(layerCopied(layer)),
    group: () => grouped && save(`Group ${layer.name} with the next`, grouped),
    ungroup: () => save(`Ungroup ${layer.name}`, ungrouped(stored, at)),
    frames: () => saveShapeFrames(stack.storedLayer(layer.id), inHand),
    svg: () => saveShapeSvg(layer, frame, inHand),
    lock: () => saveLayer(`${locked ? 'Unlock' : 'Lock'} ${layer.name}`, { ...layer, locked: !locked }),
  });
  const items = [
    { key: 'up', label: 'Move up', disabled: at === 0 },
    { key: 'down', label: 'Move down', disabled: at === stored.length - 1 },
    { key: 'duplicate', label: 'Duplicate' },
    { key: 'copy', label: 'Copy, to paste in any stack' },
    ...(layer.kind === 'group' ? [{ key: 'ungroup', label: 'Ungroup' }] : []),
    {
      key: 'group',
      label: layer.kind === 'group' ? 'Take the next layer in' : 'Group with the next',
      disabled: !canGroup,
    },
    ...(layer.kind === 'shape' && layer.geometry.form !== 'gradient'
      ? [
          { key: 'frames', label: 'Save its path, frame by frame (JSON)' },
          { key: 'svg', label: 'Save its path on this frame (SVG)' },
        ]
      : []),
    { key: 'lock', label: locked ? 'Unlock' : 'Lock' },
  ];
  return {
    items,
    onClick({ key, domEvent }) {
      domEvent.stopPropagation();
      actions[key as keyof typeof actions]();
    },
  };
}

/** The same behind a button. */
export function LayerMenu({ name, menu }: { name: string; menu: MenuProps }) {
  return (
    <Dropdown trigger={['click']} menu={menu}>
      <Button size="small" type="text" aria-label={`More for ${name}`} onClick={(e) => e.stopPropagation()}>
        <Ellipsis size={14} />
      </Button>
    </Dropdown>
  );
}
