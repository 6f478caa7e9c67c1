import { Button } from 'antd';
import { Pipette, Plus } from 'lucide-react';
import { useMemo } from 'react';
import type { Geometry, KeyLayer, Layer, Pick, SightingId } from '@mellow/contract';
import { keyFromPicks, keyWithPick, type RangeKey } from '@mellow/core';
import { edit } from '../../app/editing.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { StageSplit } from '../../app/StageSplit.tsx';
import type { InHand } from '../../app/useProject.ts';
import { layersDragged, placeChanged, toolChosen } from '../../app/viewSlice.ts';
import { frameClient, frameUrl } from '../../engine/frameClient.ts';
import { ViewerPane, type ViewerWork } from '../../viewer/ViewerPane.tsx';
import { KeyField } from './KeyField.tsx';
import { LayerCard } from './LayerCard.tsx';
import { newKey, newShape } from './layers.ts';
import { PieceBar } from './PieceBar.tsx';
import { ShapeNumbers } from './ShapeNumbers.tsx';

const NO_LAYERS: Layer[] = [];

export default function IsolateStage({ inHand }: { inHand: InHand }) {
  const { document, shot, media, piece, sighting } = inHand;
  const dispatch = useAppDispatch();
  const { layerId, frame } = useAppSelector((s) => s.view.place);
  const projectId = document.project.value.id;
  const layers = sighting?.layers ?? NO_LAYERS;
  const layer = layers.find((l) => l.id === layerId) ?? layers[0];

  /** Saves the stack; makes the sighting when this is the first layer of the piece in the shot. */
  const save = (label: string, next: Layer[]) => {
    if (!shot || !piece) return;
    const id = sighting?.id ?? (crypto.randomUUID() as SightingId);
    edit(projectId, label, [{ kind: 'sighting', id, value: { id, projectId, pieceId: piece.id, shotId: shot.id, layers: next } }]);
  };
  const replaced = (changed: Layer) => layers.map((l) => (l.id === changed.id ? changed : l));
  const drag = (changed: Layer) => sighting && dispatch(layersDragged({ sightingId: sighting.id, layers: replaced(changed) }));
  const add = (added: Layer, label: string) => {
    save(label, [...layers, added]);
    dispatch(placeChanged({ layerId: added.id }));
  };

  const picked = async (sign: Pick['sign'], rect: { x0: number; y0: number; x1: number; y1: number }) => {
    if (!shot || !media || !piece) return;
    const { samples } = await frameClient().askLead({ kind: 'sample', frame: { url: frameUrl(media.id, frame), encoding: shot.encoding, fullWidth: media.width }, ...rect });
    const onKey = layer?.kind === 'range' ? layer : layers.find((l) => l.kind === 'range');
    const target = (onKey ?? newKey(layers)) as KeyLayer;
    if (sign === 'remove' && !target.key) return;
    const pick: Pick = { sign, frame, ...rect, samples };
    // numbers set by hand stay: only the new pick is solved on top of them
    const key = keyWithPick(target.key ?? undefined, pick, target.picks);
    const next: KeyLayer = { ...target, key: key ?? null, picks: [...target.picks, pick] };
    save(sign === 'add' ? `Pick a colour for ${next.name}` : `Remove a colour from ${next.name}`, onKey ? replaced(next) : [...layers, next]);
    dispatch(placeChanged({ layerId: next.id }));
  };

  const work: ViewerWork | undefined = useMemo(
    () => piece && {
      picked: (sign, rect) => void picked(sign, rect),
      drawn: (geometry: Geometry) => {
        const made = newShape(layers, geometry);
        add(made, `Draw ${made.name}`);
        dispatch(toolChosen('select'));
      },
      shape: layer?.kind === 'shape' ? layer.geometry : undefined,
      shapeChanged: (geometry: Geometry, phase: 'drag' | 'done') => {
        if (layer?.kind !== 'shape') return;
        const next = { ...layer, geometry };
        if (phase === 'drag') drag(next);
        else save(`Adjust ${layer.name}`, replaced(next));
      },
      dots: layer?.kind === 'range' ? layer.picks.filter((p) => p.frame === frame).map((p) => ({ x: (p.x0 + p.x1) / 2, y: (p.y0 + p.y1) / 2, sign: p.sign })) : [],
    },
    [layers, layer, frame, piece, shot, media, sighting],
  );

  const panel = (
    <>
      <PieceBar inHand={inHand} />
      {piece && shot && (
        <>
          <h2>
            Matte stack <span className="quiet">top first</span>
            <span style={{ flex: 1 }} />
            <Button size="small" icon={<Plus size={14} />} onClick={() => { add(newKey(layers), 'Add a range key'); dispatch(toolChosen('pick-add')); }}>Key</Button>
            <Button size="small" icon={<Plus size={14} />} onClick={() => dispatch(toolChosen('rectangle'))}>Shape</Button>
          </h2>
          {layers.length === 0 && (
            <div className="empty">
              <p>Nothing of the {piece.name} is selected in {shot.name} yet. Pick its colour in the picture, or draw round it first.</p>
              <Button type="primary" icon={<Pipette size={14} />} onClick={() => dispatch(toolChosen('pick-add'))}>Pick its colour</Button>
            </div>
          )}
          {layers.map((each, at) => (
            <LayerCard key={each.id} layer={each} current={each.id === layer?.id} inHand={inHand} frame={frame}
              onSelect={() => dispatch(placeChanged({ layerId: each.id }))}
              onDrag={drag}
              onSave={(label, next) => save(label, replaced(next))}
              onRemove={() => save(`Remove ${each.name}`, layers.filter((l) => l.id !== each.id))}
              onMove={(by) => { const next = [...layers]; next.splice(at + by, 0, ...next.splice(at, 1)); save(`Move ${each.name}`, next); }}
              first={at === 0} last={at === layers.length - 1}
            />
          ))}
          {layer?.kind === 'range' && media && (
            <KeyField layer={layer} frame={{ url: frameUrl(media.id, Math.min(frame, media.frames - 1)), encoding: shot.encoding, fullWidth: media.width }} ready={document.proxies[media.id]?.state === 'done'}
              onDrag={(key: RangeKey) => drag({ ...layer, key })}
              onSave={(label, key) => save(label, replaced({ ...layer, key }))}
              onSolve={() => save(`Solve ${layer.name} again from its picks`, replaced({ ...layer, key: keyFromPicks(layer.picks) ?? null }))}
            />
          )}
          {layer?.kind === 'shape' && <ShapeNumbers layer={layer} onDrag={drag} onSave={(label, next) => save(label, replaced(next))} />}
        </>
      )}
    </>
  );
  return <StageSplit panel={panel}><ViewerPane inHand={inHand} work={work} /></StageSplit>;
}
