import { Button, InputNumber, Switch, Tooltip } from 'antd';
import { KeyRound } from 'lucide-react';
import type { Layer, Placement, ShapeLayer } from '@mellow/contract';
import { boundsOf, keyframeToggled, placementAbout, type Ease } from '@mellow/core';
import { KeyframingBar } from '../../keyframing/KeyframingBar.tsx';
import { NumberRows, type NumberRow } from '../../ui/NumberRows.tsx';
import { LayerKeyframing } from './LayerKeyframing.tsx';
import type { Stack } from './useStack.ts';

const ROWS: NumberRow<keyof Placement>[] = [
  { key: 'moveX', label: 'Move across', unit: 'px', min: -1e5, max: 1e5, step: 1, digits: 1 },
  { key: 'moveY', label: 'Move down', unit: 'px', min: -1e5, max: 1e5, step: 1, digits: 1 },
  { key: 'turnDeg', label: 'Turn', unit: '°', min: -36000, max: 36000, step: 0.5, digits: 1 },
  { key: 'scaleX', label: 'Scale across', unit: '%', min: 0.1, max: 1e5, step: 1, digits: 1, scale: 100 },
  { key: 'scaleY', label: 'Scale down', unit: '%', min: 0.1, max: 1e5, step: 1, digits: 1, scale: 100 },
  { key: 'shearDeg', label: 'Shear', unit: '°', min: -89, max: 89, step: 0.5, digits: 1 },
  { key: 'perspectiveX', label: 'Perspective across', unit: '‰/px', min: -100, max: 100, step: 0.01, digits: 3 },
  { key: 'perspectiveY', label: 'Perspective down', unit: '‰/px', min: -100, max: 100, step: 0.01, digits: 3 },
];

/** Keyframes of the layer in hand: its path, its placement, the frames it is there on. */
export function KeyframesPanel({ layer, stack }: { layer: Layer; stack: Stack }) {
  const { frame, keyframing, putLayer, saveLayer } = stack;
  const stored = stack.storedLayer(layer.id) ?? layer;
  const span = layer.span;
  const setSpan = (next: { from: number; to: number } | undefined) =>
    putLayer(
      next ? `${layer.name} is there on frames ${next.from}–${next.to}` : `${layer.name} is there on all frames`,
      { ...stored, span: next },
    );
  const placedBy = (key: keyof Placement, v: number): Layer =>
    layer.kind === 'shape' && layer.placement ? { ...layer, placement: { ...layer.placement, [key]: v } } : layer;
  return (
    <section aria-label="Keyframes of the layer">
      <KeyframingBar />
      {layer.kind === 'shape' && stored.kind === 'shape' && (
        <PathKeyframe layer={layer} stored={stored} frame={frame} ease={keyframing.ease} put={putLayer} />
      )}
      <h2 style={{ margin: '10px 0 6px' }}>
        Frames <span className="quiet">{layer.name} is there on</span>
      </h2>
      <div className="row">
        <Switch
          size="small"
          aria-label="Only on some frames"
          checked={span !== undefined}
          onChange={(on) => setSpan(on ? { from: frame, to: frame } : undefined)}
        />
        {span ? (
          <>
            from{' '}
            <InputNumber
              size="small"
              aria-label="There from frame"
              min={0}
              precision={0}
              controls={false}
              value={span.from}
              onChange={(v) => v !== null && setSpan({ from: v, to: Math.max(span.to, v) })}
            />
            to{' '}
            <InputNumber
              size="small"
              aria-label="There to frame"
              min={0}
              precision={0}
              controls={false}
              value={span.to}
              onChange={(v) => v !== null && setSpan({ from: Math.min(span.from, v), to: v })}
            />
          </>
        ) : (
          <span className="quiet">all frames</span>
        )}
      </div>
      {layer.kind === 'shape' && (
        <>
          <h2 style={{ margin: '10px 0 6px' }}>
            Placement <span className="quiet">of the shape as a whole</span>
          </h2>
          {layer.placement ? (
            <LayerKeyframing layer={layer} stack={stack}>
              <div className="numbers">
                <NumberRows
                  rows={ROWS}
                  values={layer.placement}
                  neutral={placementAbout(0, 0)}
                  of="placement"
                  onDrag={(key, v) => stack.dragLayer(placedBy(key, v))}
                  onCommit={(key, v, name) => saveLayer(`${name} of ${layer.name}`, placedBy(key, v))}
                />
              </div>
            </LayerKeyframing>
          ) : (
            <Button
              size="small"
              onClick={() => {
                const b = boundsOf(layer.geometry);
                putLayer(`Place ${layer.name}`, {
                  ...stored,
                  placement: placementAbout((b.x0 + b.x1) / 2, (b.y0 + b.y1) / 2),
                } as Layer);
              }}
            >
              Move, turn, scale, shear it as a whole
            </Button>
          )}
        </>
      )}
    </section>
  );
}

function PathKeyframe({
  layer,
  stored,
  frame,
  ease,
  put,
}: {
  layer: ShapeLayer;
  stored: ShapeLayer;
  frame: number;
  ease: Ease;
  put: Stack['putLayer'];
}) {
  const here = stored.paths?.some((k) => k.frame === frame) ?? false;
  const does = here ? 'Take away the keyframe of the path on this frame' : 'Set a keyframe of the path on this frame';
  return (
    <div className="row" style={{ marginTop: 8 }}>
      <span className="grow">
        Path{' '}
        <span className="quiet">
          {stored.paths
            ? `${stored.paths.length} ${stored.paths.length === 1 ? 'keyframe' : 'keyframes'}`
            : 'the same on all frames'}
        </span>
      </span>
      <Tooltip title={does}>
        <Button
          size="small"
          icon={<KeyRound size={13} />}
          aria-label={does}
          type={here ? 'primary' : 'default'}
          onClick={() =>
            put(`${here ? 'Take away' : 'Set'} a keyframe of the path of ${layer.name}`, {
              ...stored,
              geometry: layer.geometry,
              paths: keyframeToggled(stored.paths, frame, layer.geometry, ease),
            })
          }
        />
      </Tooltip>
    </div>
  );
}
