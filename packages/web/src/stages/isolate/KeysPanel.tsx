import { Button, InputNumber, Segmented, Switch, Tooltip } from 'antd';
import { KeyRound } from 'lucide-react';
import type { Layer, Placement, ShapeLayer } from '@mellow/contract';
import { boundsOf, EASES, keyToggled, placementAbout, type Ease } from '@mellow/core';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { placeChanged } from '../../app/viewSlice.ts';
import { NumberField } from '../../ui/NumberField.tsx';
import { LayerKeying } from './keyingOf.tsx';
import type { Stack } from './useStack.ts';

const ROWS = [
  { key: 'moveX', label: 'Move across', unit: 'px', min: -1e5, max: 1e5, step: 1, digits: 1 },
  { key: 'moveY', label: 'Move down', unit: 'px', min: -1e5, max: 1e5, step: 1, digits: 1 },
  { key: 'turnDeg', label: 'Turn', unit: '°', min: -36000, max: 36000, step: 0.5, digits: 1 },
  { key: 'scaleX', label: 'Scale across', unit: '%', min: 0.1, max: 1e5, step: 1, digits: 1, scale: 100 },
  { key: 'scaleY', label: 'Scale down', unit: '%', min: 0.1, max: 1e5, step: 1, digits: 1, scale: 100 },
  { key: 'shearDeg', label: 'Shear', unit: '°', min: -89, max: 89, step: 0.5, digits: 1 },
  { key: 'perspectiveX', label: 'Perspective across', unit: '‰/px', min: -100, max: 100, step: 0.01, digits: 3 },
  { key: 'perspectiveY', label: 'Perspective down', unit: '‰/px', min: -100, max: 100, step: 0.01, digits: 3 },
] as const satisfies readonly { key: keyof Placement; [k: string]: unknown }[];

/** How edits meet keyframes. */
export function KeyingBar() {
  const dispatch = useAppDispatch();
  const { autoKey, everywhere, ease } = useAppSelector((s) => s.view.place);
  return (
    <div className="card">
      <div className="row">
        <Tooltip title="Any edit makes a keyframe on this frame, of what had none too">
          <span className="row">
            <Switch
              size="small"
              aria-label="Auto-key"
              checked={autoKey}
              onChange={(on) => dispatch(placeChanged({ autoKey: on }))}
            />
            Auto-key
          </span>
        </Tooltip>
        <span style={{ flex: 1 }} />
        <Tooltip title="Here: an edit goes to this frame’s keyframe. Everywhere: the same change goes to all keyframes.">
          <Segmented
            size="small"
            aria-label="Edits go"
            options={['here', 'everywhere']}
            value={everywhere ? 'everywhere' : 'here'}
            onChange={(v) => dispatch(placeChanged({ everywhere: v === 'everywhere' }))}
          />
        </Tooltip>
      </div>
      <div className="row">
        <span className="quiet grow">New keyframes go on</span>
        <Segmented
          size="small"
          aria-label="New keyframes go on"
          options={[...EASES]}
          value={ease}
          onChange={(e) => dispatch(placeChanged({ ease: e as Ease }))}
        />
      </div>
    </div>
  );
}

/** Keyframes of the layer in hand: its path, its placement, the frames it is there on. */
export function KeysPanel({ layer, stack }: { layer: Layer; stack: Stack }) {
  const { frame, keying, putLayer, saveLayer } = stack;
  const stored = stack.storedLayer(layer.id) ?? layer;
  const span = layer.span;
  const setSpan = (next: { from: number; to: number } | undefined) =>
    putLayer(
      next ? `${layer.name} is there on frames ${next.from}–${next.to}` : `${layer.name} is there on all frames`,
      { ...stored, span: next } as Layer,
    );
  return (
    <section aria-label="Keyframes of the layer">
      <KeyingBar />
      {layer.kind === 'shape' && stored.kind === 'shape' && (
        <PathKey layer={layer} stored={stored} frame={frame} ease={keying.ease} put={putLayer} />
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
            <LayerKeying layer={layer} stack={stack}>
              <div className="numbers">
                {ROWS.map((row) => {
                  const scale = 'scale' in row ? row.scale : 1;
                  const neutral = row.key === 'scaleX' || row.key === 'scaleY' ? 100 : 0;
                  const next = (v: number): ShapeLayer => ({
                    ...layer,
                    placement: { ...layer.placement!, [row.key]: v / scale },
                  });
                  return (
                    <NumberField
                      key={row.key}
                      keyed={`placement.${row.key}`}
                      label={row.label}
                      unit={row.unit}
                      min={row.min}
                      max={row.max}
                      step={row.step}
                      digits={row.digits}
                      neutral={neutral}
                      value={layer.placement![row.key] * scale}
                      onDrag={(v) => stack.dragLayer(next(v))}
                      onCommit={(v) => saveLayer(`${row.label} of ${layer.name}`, next(v))}
                    />
                  );
                })}
              </div>
            </LayerKeying>
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

function PathKey({
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
              paths: keyToggled(stored.paths, frame, layer.geometry, ease),
            } as Layer)
          }
        />
      </Tooltip>
    </div>
  );
}
