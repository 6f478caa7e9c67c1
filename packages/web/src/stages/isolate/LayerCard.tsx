import { Button, Dropdown, Input, Segmented, Switch, Tooltip } from 'antd';
import { Contrast, Ellipsis, GripVertical, Lock, Trash2, View } from 'lucide-react';
import { useEffect, useRef } from 'react';
import type { Layer } from '@mellow/contract';
import { layerAt, pathOf, shapeDataOf, svgFromPath } from '@mellow/core';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { frameRefOf } from '../../inhand/frameScene.ts';
import { moved } from '../../view/whereSlice.ts';
import { layerCopied } from '../../view/handSlice.ts';
import { frameClient } from '../../engine/frameClient.ts';
import { NumberField } from '../../ui/NumberField.tsx';
import { saveFile } from '../../ui/saveFile.ts';
import { copyOf, describe, groupedWithNext, ungrouped } from '../../commands/layers.ts';
import { LayerKeyframing } from './LayerKeyframing.tsx';
import type { Stack } from './useStack.ts';

interface Props {
  layer: Layer;
  at: number;
  stack: Stack;
  inHand: InHand;
  handleRef: (element: Element | null) => void;
  onSelect: () => void;
}

/** A layer of the stack: what it is, how it joins, its own matte. */
export function LayerCard({ layer, at, stack, inHand, handleRef, onSelect }: Props) {
  const { layers, save, saveLayer, dragLayer, frame } = stack;
  const dispatch = useAppDispatch();
  const soloId = useAppSelector((s) => s.where.soloId);
  const current = layer.id === stack.layer?.id;
  const locked = layer.locked ?? false;
  const solo = soloId === layer.id;
  const set = (label: string, change: Partial<Layer>) => saveLayer(label, { ...layer, ...change } as Layer);
  const move = (by: number) => {
    const next = [...layers];
    next.splice(at + by, 0, ...next.splice(at, 1));
    save(`Move ${layer.name}`, next);
  };
  const grouped = groupedWithNext(layers, at);
  const actions: Record<string, () => void> = {
    up: () => move(-1),
    down: () => move(1),
    duplicate: () =>
      save(`Duplicate ${layer.name}`, [
        ...layers.slice(0, at + 1),
        copyOf(layer, `${layer.name} copy`.slice(0, 120)),
        ...layers.slice(at + 1),
      ]),
    copy: () => dispatch(layerCopied(layer)),
    group: () => grouped && save(`Group ${layer.name} with the next`, grouped),
    ungroup: () => save(`Ungroup ${layer.name}`, ungrouped(layers, at)),
    frames: () => {
      const s = stack.storedLayer(layer.id);
      if (s?.kind === 'shape' && inHand.media)
        saveFile(
          `${layer.name}.json`,
          JSON.stringify(
            shapeDataOf(
              layer.name,
              s,
              inHand.media.frames,
              { width: inHand.media.width, height: inHand.media.height },
              inHand.motions,
            ),
          ),
          'application/json',
        );
    },
    svg: () => {
      const now = layerAt(layer, frame, inHand.motions);
      if (now.kind === 'shape')
        saveFile(
          `${layer.name}-${frame}.svg`,
          `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${inHand.media?.width ?? 0} ${inHand.media?.height ?? 0}"><path d="${svgFromPath(pathOf(now.geometry))}"/></svg>\n`,
          'image/svg+xml',
        );
    },
    lock: () => set(`${locked ? 'Unlock' : 'Lock'} ${layer.name}`, { locked: !locked }),
  };
  const items = [
    { key: 'up', label: 'Move up', disabled: at === 0 },
    { key: 'down', label: 'Move down', disabled: at === layers.length - 1 },
    { key: 'duplicate', label: 'Duplicate' },
    { key: 'copy', label: 'Copy (Ctrl-C), to paste in any stack' },
    ...(layer.kind === 'group' ? [{ key: 'ungroup', label: 'Ungroup' }] : []),
    {
      key: 'group',
      label: layer.kind === 'group' ? 'Take the next layer in' : 'Group with the next',
      disabled: !grouped,
    },
    ...(layer.kind === 'shape' && layer.geometry.form !== 'gradient'
      ? [
          { key: 'frames', label: 'Save its path, frame by frame (JSON)' },
          { key: 'svg', label: 'Save its path on this frame (SVG)' },
        ]
      : []),
    { key: 'lock', label: locked ? 'Unlock' : 'Lock' },
  ];
  return (
    <LayerKeyframing layer={layer} stack={stack}>
      <section className="card" aria-current={current} aria-label={layer.name} onClick={onSelect}>
        <div className="row">
          <Button
            ref={handleRef}
            size="small"
            type="text"
            aria-label={`Drag ${layer.name} to another place`}
            style={{ cursor: 'grab', padding: 0, width: 14 }}
          >
            <GripVertical size={14} />
          </Button>
          <OwnMatte layer={layer} inHand={inHand} frame={frame} />
          <div className="grow">
            <Input
              aria-label="Layer name"
              key={layer.name}
              size="small"
              variant="borderless"
              style={{ fontWeight: 600, padding: 0 }}
              defaultValue={layer.name}
              maxLength={120}
              disabled={locked}
              onBlur={(e) => {
                const name = e.target.value.trim();
                if (name && name !== layer.name) set(`Rename ${layer.name}`, { name });
              }}
            />
            <span className="quiet">{describe(layer)}</span>
          </div>
          {locked && (
            <Tooltip title="Locked">
              <Lock size={14} />
            </Tooltip>
          )}
          <Switch
            aria-label={`${layer.name} on`}
            size="small"
            checked={layer.on}
            onChange={(on) => set(`Turn ${layer.name} ${on ? 'on' : 'off'}`, { on })}
          />
        </div>
        <div className="row">
          <Segmented
            aria-label={`How ${layer.name} joins`}
            size="small"
            disabled={locked}
            options={['add', 'within', 'without'] as Layer['mode'][]}
            value={layer.mode}
            onChange={(mode) => set(`${layer.name}: ${mode}`, { mode })}
          />
          <Tooltip title="Invert">
            <Button
              size="small"
              disabled={locked}
              aria-label={`Invert ${layer.name}`}
              aria-pressed={layer.invert}
              type={layer.invert ? 'primary' : 'text'}
              onClick={() => set(`Invert ${layer.name}`, { invert: !layer.invert })}
            >
              <Contrast size={14} />
            </Button>
          </Tooltip>
          <Tooltip title="Show only this layer’s own matte">
            <Button
              size="small"
              aria-label={`Solo ${layer.name}`}
              aria-pressed={solo}
              type={solo ? 'primary' : 'text'}
              onClick={() => dispatch(moved({ soloId: solo ? null : layer.id }))}
            >
              <View size={14} />
            </Button>
          </Tooltip>
          <span style={{ flex: 1 }} />
          <Dropdown
            trigger={['click']}
            menu={{
              items,
              onClick: ({ key, domEvent }) => {
                domEvent.stopPropagation();
                actions[key]?.();
              },
            }}
          >
            <Button size="small" type="text" aria-label={`More for ${layer.name}`} onClick={(e) => e.stopPropagation()}>
              <Ellipsis size={14} />
            </Button>
          </Dropdown>
          <Button
            size="small"
            type="text"
            disabled={locked}
            aria-label={`Remove ${layer.name}`}
            onClick={(e) => {
              e.stopPropagation();
              save(
                `Remove ${layer.name}`,
                layers.filter((l) => l.id !== layer.id),
              );
            }}
          >
            <Trash2 size={14} />
          </Button>
        </div>
        {current && !locked && (
          <div className="numbers">
            <NumberField
              animates="strength"
              label="Strength"
              name={`Strength of ${layer.name}`}
              value={layer.strength * 100}
              unit="%"
              min={0}
              max={100}
              step={1}
              digits={0}
              neutral={100}
              onDrag={(v) => dragLayer({ ...layer, strength: v / 100 })}
              onCommit={(v) => set(`Strength of ${layer.name}`, { strength: v / 100 })}
            />
          </div>
        )}
      </section>
    </LayerKeyframing>
  );
}

const WIDTH = 72;
/** A live thumbnail of the layer's own matte on the frame in hand. */
function OwnMatte({
  layer,
  inHand: { document, shot, media, motions },
  frame,
}: {
  layer: Layer;
  inHand: InHand;
  frame: number;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const ready = media && document.proxies[media.id]?.state === 'done';
  const height = media ? Math.round((WIDTH * media.height) / media.width) : 40;
  useEffect(() => {
    if (!shot || !media || !ready) return;
    let wanted = true;
    void frameClient()
      .askLead({
        kind: 'layer',
        frame: frameRefOf(document, shot, media, Math.min(frame, media.frames - 1)),
        layer: layerAt(layer, frame, motions),
        width: WIDTH,
      })
      .then(
        ({ rgba, width, height: h }) =>
          wanted && canvas.current?.getContext('2d')!.putImageData(new ImageData(rgba, width, h), 0, 0),
        () => undefined,
      );
    return () => void (wanted = false);
  }, [layer, shot, media, frame, ready, motions]);
  return (
    <canvas
      ref={canvas}
      width={WIDTH}
      height={height}
      style={{ borderRadius: 3, background: '#000' }}
      role="img"
      aria-label={`Matte of ${layer.name}`}
    />
  );
}
