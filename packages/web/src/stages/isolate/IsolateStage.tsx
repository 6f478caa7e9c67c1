import { Button, Dropdown, Segmented } from 'antd';
import { ClipboardPaste, Pipette, Plus } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useKeys } from '../../ui/useKeys.ts';
import { tellProblem } from '../../app/editing.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { StageSplit } from '../../app/StageSplit.tsx';
import type { InHand } from '../../app/useProject.ts';
import { layerCopied, toolChosen, type Tool } from '../../app/viewSlice.ts';
import { ViewerPane, type ViewerWork } from '../../viewer/ViewerPane.tsx';
import { CleanUpNumbers } from './CleanUpNumbers.tsx';
import { KeyEditor } from './KeyEditor.tsx';
import { copyOf, isKey, KEY_NAMES, newKey, newPlate, newShape, type KeyKind } from './layers.ts';
import { MeterLine } from './MeterLine.tsx';
import { PieceBar } from './PieceBar.tsx';
import { PlateEditor } from './PlateEditor.tsx';
import { ShapeNumbers } from './ShapeNumbers.tsx';
import { SpillNumbers } from './SpillNumbers.tsx';
import { StackList } from './StackList.tsx';
import { useStack, type Stack } from './useStack.ts';

const SECTIONS = ['Layer', 'Clean-up', 'Spill'] as const;

export default function IsolateStage({ inHand }: { inHand: InHand }) {
  const { shot, piece } = inHand;
  const stack = useStack(inHand);
  const { layers, layer, frame, add, pick, movePick, dragLayer, saveLayer } = stack;
  const dispatch = useAppDispatch();
  const clipboard = useAppSelector((s) => s.view.clipboard);
  const [section, setSection] = useState<(typeof SECTIONS)[number]>('Layer');

  const paste = () => clipboard && piece && add(copyOf(clipboard), `Paste ${clipboard.name}`);
  useKeys('mod+c', () => void (layer && dispatch(layerCopied(layer))), [layer]);
  useKeys('mod+v', () => void paste(), [clipboard, stack]);

  const work: ViewerWork | undefined = useMemo(() => {
    if (!piece) return undefined;
    const shape = layer?.kind === 'shape' && !layer.locked ? layer : undefined;
    const key = isKey(layer) && !layer.locked ? layer : undefined;
    // dots of this frame only, but each knows its place in the list of picks
    const picks = key?.picks.flatMap((p, index) => (p.frame === frame ? [{ index, dot: { x: (p.x0 + p.x1) / 2, y: (p.y0 + p.y1) / 2, sign: p.sign } }] : [])) ?? [];
    return {
      picked: (sign, rect) => void pick(sign, rect).catch(tellProblem),
      drawn: (geometry) => {
        const made = newShape(layers, geometry);
        add(made, `Draw ${made.name}`);
        dispatch(toolChosen('select'));
      },
      shape: shape && { geometry: shape.geometry, feather: shape.feather },
      shapeChanged: (changed, phase, what) => {
        if (!shape) return;
        const next = { ...shape, ...changed };
        if (phase === 'drag') dragLayer(next);
        else saveLayer(`${what} of ${shape.name}`, next);
      },
      dots: picks.map((p) => p.dot),
      dotMoved: (at, to) => key && void movePick(key, picks[at]!.index, to).catch(tellProblem),
    };
  }, [stack]);

  const panel = (
    <>
      <PieceBar inHand={inHand} />
      {piece && shot && (
        <>
          <h2>
            Matte stack <span className="quiet">top first</span>
            <span style={{ flex: 1 }} />
            {clipboard && <Button size="small" icon={<ClipboardPaste size={14} />} aria-label={`Paste ${clipboard.name}`} onClick={paste} />}
            <AddMenu stack={stack} />
          </h2>
          {layers.length === 0 && (
            <div className="empty">
              <p>Nothing of the {piece.name} is selected in {shot.name} yet. Pick its colour in the picture, or draw round it first.</p>
              <Button type="primary" icon={<Pipette size={14} />} onClick={() => dispatch(toolChosen('pick-add'))}>Pick its colour</Button>
            </div>
          )}
          <MeterLine inHand={inHand} frame={frame} />
          <StackList stack={stack} inHand={inHand} />
          {layers.length > 0 && <Segmented block aria-label="Section" options={[...SECTIONS]} value={section} onChange={setSection} />}
          {layers.length > 0 && <Section section={section} stack={stack} inHand={inHand} />}
        </>
      )}
    </>
  );
  return <StageSplit panel={panel}><ViewerPane inHand={inHand} work={work} /></StageSplit>;
}

function Section({ section, stack, inHand }: { section: (typeof SECTIONS)[number]; stack: Stack; inHand: InHand }) {
  const { layer, saveLayer, dragLayer, saveSighting, dragSighting } = stack;
  const { sighting } = inHand;
  if (section === 'Spill') return <SpillNumbers value={sighting?.spill} onDrag={(spill) => dragSighting({ spill })} onSave={(label, spill) => saveSighting(label, { spill })} />;
  if (section === 'Clean-up')
    return (
      <>
        <CleanUpNumbers of="the stack" value={sighting?.cleanUp} onDrag={(cleanUp) => dragSighting({ cleanUp })} onSave={(label, cleanUp) => saveSighting(label, { cleanUp })} />
        {layer && !layer.locked && <CleanUpNumbers of={layer.name} value={layer.cleanUp} onDrag={(cleanUp) => dragLayer({ ...layer, cleanUp })} onSave={(label, cleanUp) => saveLayer(label, { ...layer, cleanUp })} />}
      </>
    );
  if (!layer) return null;
  if (layer.locked) return <div className="quiet">{layer.name} is locked. Unlock it from its menu to change it.</div>;
  if (isKey(layer)) return <KeyEditor layer={layer} stack={stack} inHand={inHand} />;
  if (layer.kind === 'shape') return <ShapeNumbers layer={layer} onDrag={dragLayer} onSave={saveLayer} />;
  if (layer.kind === 'plate') return <PlateEditor layer={layer} stack={stack} inHand={inHand} />;
  return <div className="quiet">A group’s layers are combined with one another first: {layer.layers.map((l) => `${l.name} (${l.mode})`).join(', ')}. Ungroup it to change one of them.</div>;
}

function AddMenu({ stack: { layers, add } }: { stack: Stack }) {
  const dispatch = useAppDispatch();
  const keys = (Object.keys(KEY_NAMES) as KeyKind[]).map((kind) => ({ key: kind, label: KEY_NAMES[kind] }));
  const addKey = (kind: KeyKind) => {
    add(newKey(layers, kind), `Add: ${KEY_NAMES[kind]}`);
    dispatch(toolChosen('pick-add'));
  };
  const shapes = (['rectangle', 'ellipse', 'spline', 'gradient'] as const).map((tool) => ({ key: tool, label: tool[0]!.toUpperCase() + tool.slice(1) }));
  return (
    <>
      <Dropdown trigger={['click']} menu={{ items: keys, onClick: ({ key }) => addKey(key as KeyKind) }}><Button size="small" icon={<Plus size={14} />}>Key</Button></Dropdown>
      <Dropdown trigger={['click']} menu={{ items: [...shapes, { key: 'plate', label: 'Plate matte' }], onClick: ({ key }) => (key === 'plate' ? add(newPlate(layers), 'Add a plate matte') : dispatch(toolChosen(key as Tool))) }}><Button size="small" icon={<Plus size={14} />}>Shape</Button></Dropdown>
    </>
  );
}
