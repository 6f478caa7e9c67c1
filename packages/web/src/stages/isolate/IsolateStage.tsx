import { Button, Dropdown, Segmented, Tooltip } from 'antd';
import { ClipboardPaste, Pipette, Plus } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useKeys } from '../../ui/useKeys.ts';
import { tellProblem } from '../../app/editing.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { StageSplit } from '../../app/StageSplit.tsx';
import type { InHand } from '../../app/useProject.ts';
import { drawingFor, layerCopied, toolChosen, type Tool } from '../../app/viewSlice.ts';
import { ViewerPane, type ViewerWork } from '../../viewer/ViewerPane.tsx';
import type { Layer, ShapeLayer, Spill, Stroke } from '@mellow/contract';
import {
  carriedBack,
  carriedThere,
  geometryAt,
  isAnimated,
  NO_SPILL,
  ownGeometryAt,
  pathOf,
  placeOf,
  strokePlace,
  strokeThere,
  type Motions,
} from '@mellow/core';
import { Keying } from '../../ui/Keying.ts';
import { askForText } from '../../ui/saveFile.ts';
import type { Outline } from '../../viewer/FrameViewer.ts';
import type { Shape, ShapeEvent } from '../../viewer/tools/tool.ts';
import { CleanUpNumbers } from './CleanUpNumbers.tsx';
import { HoldPanel } from './HoldPanel.tsx';
import { useHold, type Hold } from './useHold.ts';
import { FollowPanel } from './FollowPanel.tsx';
import { KeyEditor } from './KeyEditor.tsx';
import { keyingOf, LayerKeying } from './keyingOf.tsx';
import { KeysPanel } from './KeysPanel.tsx';
import {
  isKey,
  KEY_NAMES,
  newKey,
  newPlate,
  newShape,
  pastedInto,
  shapeFromText,
  startingAt,
  type KeyKind,
} from './layers.ts';
import { MeterLine } from './MeterLine.tsx';
import { PieceBar } from './PieceBar.tsx';
import { PlateEditor } from './PlateEditor.tsx';
import { ScribbleEditor } from './ScribbleEditor.tsx';
import { ShapeNumbers } from './ShapeNumbers.tsx';
import { SpillNumbers } from './SpillNumbers.tsx';
import { StackList } from './StackList.tsx';
import { TrackPanel } from './TrackPanel.tsx';
import { lanesOf, stripsOf } from './lanesOf.ts';
import { useStack, type Stack } from './useStack.ts';
import { useTracks, type Tracks } from './useTracks.ts';

const SECTIONS = ['Layer', 'Clean-up', 'Spill', 'Keys', 'Track'] as const;
type SectionName = (typeof SECTIONS)[number];

/** A shape as the hand holds it on the picture, and what to do when the hand has moved it. */
interface InTheHand {
  of: string;
  shape: Shape;
  changed: ShapeEvent;
}

export default function IsolateStage({ inHand }: { inHand: InHand }) {
  const { shot, piece } = inHand;
  const stack = useStack(inHand);
  const tracks = useTracks(inHand);
  const hold = useHold(inHand, tracks.track?.id);
  const { layers, layer, frame, add, pick, movePick, pickPlace } = stack;
  const { motions } = inHand;
  const drawFor = useAppSelector((s) => s.view.drawFor);
  const keysChosen = useAppSelector((s) => s.view.keysChosen.length);
  const dispatch = useAppDispatch();
  const clipboard = useAppSelector((s) => s.view.clipboard);
  const [section, setSection] = useState<SectionName>('Layer');

  const paste = () =>
    clipboard &&
    piece &&
    add(
      pastedInto(
        clipboard,
        tracks.tracks.map((t) => t.id),
      ),
      `Paste ${clipboard.name}`,
    );
  useKeys(
    'mod+c',
    () => void (layer && keysChosen === 0 && dispatch(layerCopied(stack.storedLayer(layer.id) ?? layer))),
    [layer, keysChosen],
  );
  useKeys('mod+v', () => void paste(), [clipboard, stack]);

  const tracking = section === 'Track';
  const work: ViewerWork | undefined = useMemo(() => {
    if (!piece) return undefined;
    const key = isKey(layer) && !layer.locked ? layer : undefined;
    // dots of this frame, and of any frame when they ride on a track; each knows its place in the list of picks
    const picks =
      key?.picks
        .map((p) => pickPlace(key, p))
        .flatMap((p, index) =>
          p.frame === frame ? [{ index, dot: { x: (p.x0 + p.x1) / 2, y: (p.y0 + p.y1) / 2, sign: p.sign } }] : [],
        ) ?? [];
    const held = tracking
      ? regionInHand(tracks)
      : section === 'Spill'
        ? (spillInHand(stack, motions) ?? layerInHand(stack, motions))
        : layerInHand(stack, motions);
    return {
      picked: (sign, rect) => void pick(sign, rect).catch(tellProblem),
      drawn: (geometry) => {
        dispatch(toolChosen('select'));
        if (drawFor !== 'layer') {
          dispatch(drawingFor('layer'));
          if (drawFor === 'spill')
            return stack.saveWhole('Draw where spill is looked for', {
              spill: {
                ...(stack.shown?.spill ?? (NO_SPILL as Spill)),
                within: { geometry, feather: { innerPx: 0, outerPx: 8, falloff: 'smooth' } },
              },
            });
          setSection('Track');
          return drawFor === 'track' ? tracks.create(geometry) : tracks.addHoldOut(geometry);
        }
        const made = newShape(layers, geometry);
        add(made, `Draw ${made.name}`);
        if (section === 'Track') setSection('Layer');
      },
      scribbled: (stroke) => stack.scribble(stroke),
      strokes:
        !tracking && section !== 'Spill' && layer?.kind === 'scribble'
          ? layer.strokes.map((s) => strokeThere(s, strokePlace(layer.follow, frame, motions)) as Stroke)
          : [],
      shape: held?.shape,
      shapeOf: held?.of,
      shapeChanged: (changed, phase, what) => held?.changed(changed, phase, what),
      dots: tracking ? [] : picks.map((p) => p.dot),
      dotMoved: (at, to) => key && void movePick(key, picks[at]!.index, to).catch(tellProblem),
      outlines: tracking ? outlinesOf(tracks, stack, motions) : onion(stack, motions, inHand.media?.frames ?? 1),
    };
  }, [stack, tracks, tracking, section, drawFor, motions]);
  const lanes = useMemo(() => lanesOf(stack, tracks, inHand), [stack, tracks, inHand]);
  const strips = useMemo(
    () => [...stripsOf(tracks, inHand.media?.frames ?? 0), ...hold.strips],
    [tracks, inHand.media, hold.strips],
  );

  const panel = (
    <>
      <PieceBar inHand={inHand} />
      {piece && shot && (
        <>
          <h2>
            Matte stack <span className="quiet">top first</span>
            <span style={{ flex: 1 }} />
            {clipboard && (
              <Dropdown
                trigger={['contextMenu']}
                menu={{
                  items: [
                    { key: 'kept', label: 'Paste, frame numbers kept' },
                    { key: 'here', label: `Paste, first keyframe on frame ${frame}` },
                  ],
                  onClick: ({ key }) =>
                    key === 'kept'
                      ? paste()
                      : add(
                          startingAt(
                            pastedInto(
                              clipboard,
                              tracks.tracks.map((t) => t.id),
                            ),
                            frame,
                          ),
                          `Paste ${clipboard.name} from frame ${frame}`,
                        ),
                }}
              >
                <Tooltip title="Paste (Ctrl-V); right-click to begin its keyframes on this frame">
                  <Button
                    size="small"
                    icon={<ClipboardPaste size={14} />}
                    aria-label={`Paste ${clipboard.name}`}
                    onClick={paste}
                  />
                </Tooltip>
              </Dropdown>
            )}
            <AddMenu stack={stack} />
          </h2>
          {layers.length === 0 && (
            <div className="empty">
              <p>
                Nothing of the {piece.name} is selected in {shot.name} yet. Pick its colour in the picture, or draw
                round it first.
              </p>
              <Button type="primary" icon={<Pipette size={14} />} onClick={() => dispatch(toolChosen('pick-add'))}>
                Pick its colour
              </Button>
            </div>
          )}
          <MeterLine inHand={inHand} frame={frame} />
          <StackList stack={stack} inHand={inHand} />
          <Segmented
            block
            size="small"
            aria-label="Section"
            options={[...SECTIONS]}
            value={section}
            onChange={setSection}
          />
          {(layers.length > 0 || tracking) && (
            <Section section={section} stack={stack} tracks={tracks} hold={hold} inHand={inHand} />
          )}
        </>
      )}
    </>
  );
  return (
    <StageSplit panel={panel}>
      <ViewerPane inHand={inHand} work={work} lanes={lanes} strips={strips} />
    </StageSplit>
  );
}

/** The shape layer in hand where it lies on this frame: placed, and on the track it follows. */
function layerInHand(stack: Stack, motions: Motions): InTheHand | undefined {
  const { layer, frame } = stack;
  if (layer?.kind !== 'shape' || layer.locked) return undefined;
  const place = placeOf(layer, frame, motions);
  const geometry = carriedThere(layer.geometry, place, true);
  return {
    of: layer.id,
    shape: { geometry, feather: layer.feather },
    changed: (changed, phase, what) => {
      const next: Layer = {
        ...layer,
        feather: changed.feather,
        geometry: (changed.geometry === geometry
          ? layer.geometry
          : carriedBack(changed.geometry, place)) as typeof layer.geometry,
      };
      if (phase === 'drag') stack.dragLayer(next);
      else stack.saveLayer(`${what} of ${layer.name}`, next);
    },
  };
}
/** Where spill is looked for, as it lies on this frame. */
function spillInHand(stack: Stack, motions: Motions): InTheHand | undefined {
  const spill = stack.shown?.spill;
  const within = spill?.within;
  if (!within || spill.mode === 'off') return undefined;
  const place = placeOf({ follow: within.follow }, stack.frame, motions);
  const geometry = carriedThere(within.geometry, place, true);
  return {
    of: 'spill',
    shape: { geometry, feather: within.feather },
    changed: (changed, phase, what) => {
      const next = {
        spill: {
          ...spill,
          within: {
            ...within,
            feather: changed.feather,
            geometry: (changed.geometry === geometry
              ? within.geometry
              : carriedBack(changed.geometry, place)) as typeof within.geometry,
          },
        },
      };
      if (phase === 'drag') stack.dragWhole(next);
      else stack.saveWhole(`${what} of where spill is looked for`, next);
    },
  };
}
/** The region of the track in hand where it lies on this frame. */
function regionInHand(tracks: Tracks): InTheHand | undefined {
  const { track, regionNow } = tracks;
  if (!track || !regionNow) return undefined;
  return {
    of: track.id,
    shape: { geometry: regionNow, feather: { innerPx: 0, outerPx: 0, falloff: 'linear' } },
    changed: (changed, phase, what) => {
      const next = tracks.regionMoved(changed.geometry as ShapeLayer['geometry']);
      if (!next) return;
      if (phase === 'drag') tracks.drag(next);
      else tracks.save(`${what} of ${track.name}`, next);
    },
  };
}
/** Hold-outs of the track in hand, and the layer that may follow it, seen while one tracks. */
function outlinesOf({ track, frame }: Tracks, stack: Stack, motions: Motions): Outline[] {
  const out: Outline[] =
    track?.holdOuts
      .filter((h) => h.on)
      .map((h) => ({ points: pathOf(h.paths ? geometryAt(h.paths, frame) : h.geometry), look: 'dashed' as const })) ??
    [];
  const { layer } = stack;
  if (layer?.kind === 'shape')
    out.push({ points: pathOf(carriedThere(layer.geometry, placeOf(layer, frame, motions))), look: 'faint' });
  return out;
}
/** Faint outlines of the shape in hand on the frames before and after, where it moves. */
function onion({ layer, storedLayer, frame }: Stack, motions: Motions, frames: number): Outline[] {
  const stored = layer && storedLayer(layer.id);
  if (stored?.kind !== 'shape' || !isAnimated(stored)) return [];
  return [frame - 1, frame + 1]
    .filter((f) => f >= 0 && f < frames)
    .map((f) => ({
      points: pathOf(carriedThere(ownGeometryAt(stored, f), placeOf(stored, f, motions))),
      look: 'faint',
    }));
}

function Section({
  section,
  stack,
  tracks,
  hold,
  inHand,
}: {
  section: SectionName;
  stack: Stack;
  tracks: Tracks;
  hold: Hold;
  inHand: InHand;
}) {
  const { layer, shown, saveLayer, dragLayer, saveWhole, dragWhole, frame, keying, saveSighting } = stack;
  const wholeKeying = keyingOf(shown, inHand.sighting?.animated, frame, keying.ease, (label, animated) =>
    saveSighting(label, { animated }),
  );
  if (section === 'Track')
    return (
      <>
        <TrackPanel tracks={tracks} />
        {layer && !layer.locked && <FollowPanel layer={layer} stack={stack} tracks={tracks} inHand={inHand} />}
      </>
    );
  if (section === 'Spill')
    return (
      <Keying value={wholeKeying}>
        <SpillNumbers
          tracks={tracks}
          motions={inHand.motions}
          frame={frame}
          value={shown?.spill}
          onDrag={(spill) => dragWhole({ spill })}
          onSave={(label, spill) => saveWhole(label, { spill })}
        />
      </Keying>
    );
  if (section === 'Clean-up')
    return (
      <>
        <Keying value={wholeKeying}>
          <CleanUpNumbers
            of="the stack"
            value={shown?.cleanUp}
            onDrag={(cleanUp) => dragWhole({ cleanUp })}
            onSave={(label, cleanUp) => saveWhole(label, { cleanUp })}
          />
        </Keying>
        <HoldPanel stack={stack} hold={hold} />
        {layer && !layer.locked && (
          <LayerKeying layer={layer} stack={stack}>
            <CleanUpNumbers
              of={layer.name}
              value={layer.cleanUp}
              onDrag={(cleanUp) => dragLayer({ ...layer, cleanUp })}
              onSave={(label, cleanUp) => saveLayer(label, { ...layer, cleanUp })}
            />
          </LayerKeying>
        )}
      </>
    );
  if (!layer) return null;
  if (layer.locked) return <div className="quiet">{layer.name} is locked. Unlock it from its menu to change it.</div>;
  if (section === 'Keys') return <KeysPanel layer={layer} stack={stack} />;
  if (isKey(layer))
    return (
      <LayerKeying layer={layer} stack={stack}>
        <KeyEditor layer={layer} stack={stack} inHand={inHand} />
      </LayerKeying>
    );
  if (layer.kind === 'shape')
    return (
      <LayerKeying layer={layer} stack={stack}>
        <ShapeNumbers layer={layer} onDrag={dragLayer} onSave={saveLayer} />
      </LayerKeying>
    );
  if (layer.kind === 'scribble') return <ScribbleEditor layer={layer} onSave={saveLayer} />;
  if (layer.kind === 'plate') return <PlateEditor layer={layer} stack={stack} inHand={inHand} />;
  return (
    <div className="quiet">
      A group’s layers are combined with one another first:{' '}
      {layer.layers.map((l) => `${l.name} (${l.mode})`).join(', ')}. Ungroup it to change one of them.
    </div>
  );
}

function AddMenu({ stack: { layers, add, frame } }: { stack: Stack }) {
  const dispatch = useAppDispatch();
  const keys = (Object.keys(KEY_NAMES) as KeyKind[]).map((kind) => ({ key: kind, label: KEY_NAMES[kind] }));
  const addKey = (kind: KeyKind) => {
    add(newKey(layers, kind), `Add: ${KEY_NAMES[kind]}`);
    dispatch(toolChosen('pick-add'));
  };
  const fromFile = async (first: number | undefined) => {
    const text = await askForText('.json,.svg,.txt');
    if (text === undefined) return;
    try {
      const made = shapeFromText(layers, text, first);
      add(made, `Take in ${made.name}`);
    } catch (error) {
      tellProblem(error);
    }
  };
  const shapes = (['rectangle', 'ellipse', 'spline', 'gradient'] as const).map((tool) => ({
    key: tool,
    label: tool[0]!.toUpperCase() + tool.slice(1),
  }));
  return (
    <>
      <Dropdown trigger={['click']} menu={{ items: keys, onClick: ({ key }) => addKey(key as KeyKind) }}>
        <Button size="small" icon={<Plus size={14} />}>
          Key
        </Button>
      </Dropdown>
      <Dropdown
        trigger={['click']}
        menu={{
          items: [
            ...shapes,
            { key: 'scribble-in', label: 'Scribble' },
            { key: 'plate', label: 'Plate matte' },
            { key: 'file', label: 'From a file (JSON, SVG), frames as numbered' },
            { key: 'file here', label: `From a file, first frame on ${frame}` },
          ],
          onClick: ({ key }) =>
            key.startsWith('file')
              ? void fromFile(key === 'file here' ? frame : undefined)
              : key === 'plate'
                ? add(newPlate(layers), 'Add a plate matte')
                : dispatch(toolChosen(key as Tool)),
        }}
      >
        <Button size="small" icon={<Plus size={14} />}>
          Shape
        </Button>
      </Dropdown>
    </>
  );
}
