import { Button, Dropdown, Segmented, Switch, Tooltip } from 'antd';
import { Contrast, GripVertical, Lock, Trash2, View } from 'lucide-react';
import type { Follow, Layer } from '@mellow/contract';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { moved } from '../../view/whereSlice.ts';
import { NameField } from '../../ui/NameField.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import { describe } from '../../commands/layers.ts';
import { LayerKeyframing } from './LayerKeyframing.tsx';
import { LayerMenu, useLayerMenu } from './LayerMenu.tsx';
import { OwnMatte } from './OwnMatte.tsx';
import { trackTrouble } from './trackTrouble.ts';
import type { Stack } from './useStack.ts';

interface Props {
  layer: Layer;
  at: number;
  stack: Stack;
  inHand: InHand;
  handleRef: (element: Element | null) => void;
  onSelect: () => void;
}

/** A layer of the stack: what it is, how it is combined, its own matte. */
export function LayerCard({ layer, at, stack, inHand, handleRef, onSelect }: Props) {
  const { removeLayer, changeLayer, dragLayer, frame } = stack;
  const dispatch = useAppDispatch();
  const soloId = useAppSelector((s) => s.where.soloId);
  // by their values: while a point of its path is dragged its card stands still
  const { id, name, mode, invert, on, locked = false } = layer;
  const current = id === stack.layer?.id;
  const { follow } = layer as { follow?: Follow };
  const trouble =
    follow &&
    trackTrouble(
      inHand.tracks.find((t) => t.id === follow.trackId),
      inHand.motions.get(follow.trackId),
      inHand.runs,
      inHand.span ?? { from: 0, to: 0 },
    );
  const menu = useLayerMenu({ layer, at, stack, inHand });
  const solo = soloId === id;
  const set = (label: string, change: Partial<Layer>) => changeLayer(id, label, change);
  return (
    <LayerKeyframing layer={layer} stack={stack}>
      <Dropdown trigger={['contextMenu']} menu={menu}>
        {/* a press anywhere on the card is a short cut; by keyboard it is chosen by going to its name */}
        {/* eslint-disable-next-line jsx-a11y/click-events-have-key-events,
            jsx-a11y/no-noninteractive-element-interactions */}
        <section className="card" aria-current={current} aria-label={name} onClick={onSelect}>
          <div className="row">
            <Button
              ref={handleRef}
              size="small"
              type="text"
              aria-label={`Drag ${name} to another place`}
              style={{ cursor: 'grab', padding: 0, width: 14 }}
            >
              <GripVertical size={14} />
            </Button>
            <OwnMatte layer={layer} inHand={inHand} frame={frame} />
            <div className="grow">
              <NameField
                name={name}
                label="Layer name"
                disabled={locked}
                onSelect={onSelect}
                onRename={(name) => set(`Rename ${name}`, { name })}
              />
              <span className="quiet">{describe(layer)}</span>
            </div>
            {locked && (
              <Tooltip title="Locked">
                <Lock size={14} />
              </Tooltip>
            )}
            <Switch
              aria-label={`${name} on`}
              size="small"
              checked={on}
              onChange={(on) => set(`Turn ${name} ${on ? 'on' : 'off'}`, { on })}
            />
          </div>
          <div className="row">
            <Segmented
              aria-label={`Combine ${name}`}
              size="small"
              disabled={locked}
              options={['add', 'within', 'without'] as Layer['mode'][]}
              value={mode}
              onChange={(mode) => set(`${name}: ${mode}`, { mode })}
            />
            <Tooltip title="Invert">
              <Button
                size="small"
                disabled={locked}
                aria-label={`Invert ${name}`}
                aria-pressed={invert}
                type={invert ? 'primary' : 'text'}
                onClick={() => set(`Invert ${name}`, { invert: !invert })}
              >
                <Contrast size={14} />
              </Button>
            </Tooltip>
            <Tooltip title="Show only this layer’s own matte">
              <Button
                size="small"
                aria-label={`Solo ${name}`}
                aria-pressed={solo}
                type={solo ? 'primary' : 'text'}
                onClick={() => dispatch(moved({ soloId: solo ? null : id }))}
              >
                <View size={14} />
              </Button>
            </Tooltip>
            <span style={{ flex: 1 }} />
            <LayerMenu name={name} menu={menu} />
            <Button
              size="small"
              type="text"
              disabled={locked}
              aria-label={`Remove ${name}`}
              onClick={(e) => {
                e.stopPropagation();
                removeLayer(id);
              }}
            >
              <Trash2 size={14} />
            </Button>
          </div>
          {trouble && <div role="note">⚠ {trouble}</div>}
          {current && !locked && (
            <div className="numbers">
              <NumberField
                animates="strength"
                label="Strength"
                name={`Strength of ${name}`}
                value={layer.strength * 100}
                unit="%"
                min={0}
                max={100}
                step={1}
                digits={0}
                neutral={100}
                onDrag={(v) => dragLayer({ ...layer, strength: v / 100 })}
                onCommit={(v) => set(`Strength of ${name}`, { strength: v / 100 })}
              />
            </div>
          )}
        </section>
      </Dropdown>
    </LayerKeyframing>
  );
}
