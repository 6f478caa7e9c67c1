import { NO_CLEAN_UP } from '@mellow/core';
import { isKey } from '../../commands/layers.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { Keyframing } from '../../keyframing/Keyframing.ts';
import { keyframingOf } from '../../keyframing/keyframingOf.ts';
import { BrushEditor } from './BrushEditor.tsx';
import { CarryPanel } from './CarryPanel.tsx';
import { CleanUpChain } from './CleanUpChain.tsx';
import { CleanUpNumbers } from './CleanUpNumbers.tsx';
import { FollowPanel } from './FollowPanel.tsx';
import { KeyEditor } from './KeyEditor.tsx';
import { KeyframesPanel } from './KeyframesPanel.tsx';
import { LayerKeyframing } from './LayerKeyframing.tsx';
import { OverTimePanel } from './OverTimePanel.tsx';
import { PlateEditor } from './PlateEditor.tsx';
import { ScribbleEditor } from './ScribbleEditor.tsx';
import { ShapeNumbers } from './ShapeNumbers.tsx';
import { SpillNumbers } from './SpillNumbers.tsx';
import { TrackPanel } from './TrackPanel.tsx';
import type { OverTime } from './useOverTime.ts';
import type { Carrying } from './useCarrying.ts';
import type { Stack } from './useStack.ts';
import type { Strokes } from './useStrokes.ts';
import type { Tracks } from './useTracks.ts';

export const SECTIONS = ['Layer', 'Clean-up', 'Spill', 'Keyframes', 'Track'] as const;
export type SectionName = (typeof SECTIONS)[number];

interface Props {
  section: SectionName;
  stack: Stack;
  tracks: Tracks;
  strokes: Strokes;
  carrying: Carrying;
  overTime: OverTime;
  inHand: InHand;
}

/** The part of the panel that is open below the stack. */
export function Section(props: Props) {
  const { section, stack } = props;
  const { layer } = stack;
  if (section === 'Track') return <TrackSection {...props} />;
  if (section === 'Spill') return <SpillSection {...props} />;
  if (section === 'Clean-up') return <CleanUpSection {...props} />;
  if (!layer) return null;
  if (layer.locked) return <div className="quiet">{layer.name} is locked. Unlock it from its menu to change it.</div>;
  if (section === 'Keyframes') return <KeyframesPanel layer={layer} stack={stack} />;
  return <LayerSection {...props} />;
}

function TrackSection({ stack, tracks, inHand }: Props) {
  const { layer } = stack;
  return (
    <>
      <TrackPanel tracks={tracks} />
      {layer && !layer.locked && <FollowPanel layer={layer} stack={stack} tracks={tracks} inHand={inHand} />}
    </>
  );
}

/** Keyframe buttons of clean-up and spill, which hold for the stack as a whole. */
const wholeKeyframing = ({ stack, inHand }: Props) =>
  keyframingOf(stack.shown, inHand.sighting?.animated, stack.frame, stack.keyframing.ease, (label, animated) =>
    stack.saveSighting(label, { animated }),
  );

function SpillSection(props: Props) {
  const { stack, tracks, inHand } = props;
  return (
    <Keyframing value={wholeKeyframing(props)}>
      <SpillNumbers
        tracks={tracks}
        motions={inHand.motions}
        frame={stack.frame}
        value={stack.shown?.spill}
        onDrag={(spill) => stack.dragWhole({ spill })}
        onSave={(label, spill) => stack.saveWhole(label, { spill })}
      />
    </Keyframing>
  );
}

function CleanUpSection(props: Props) {
  const { stack, overTime, inHand } = props;
  const { layer } = stack;
  return (
    <>
      <Keyframing value={wholeKeyframing(props)}>
        <CleanUpChain value={stack.shown?.cleanUp ?? NO_CLEAN_UP} inHand={inHand} frame={stack.frame} />
        <CleanUpNumbers
          of="the stack"
          value={stack.shown?.cleanUp}
          onDrag={(cleanUp) => stack.dragWhole({ cleanUp })}
          onSave={(label, cleanUp) => stack.saveWhole(label, { cleanUp })}
        />
      </Keyframing>
      <OverTimePanel stack={stack} overTime={overTime} />
      {layer && !layer.locked && (
        <LayerKeyframing layer={layer} stack={stack}>
          <CleanUpNumbers
            of={layer.name}
            value={layer.cleanUp}
            onDrag={(cleanUp) => stack.dragLayer({ ...layer, cleanUp })}
            onSave={(label, cleanUp) => stack.saveLayer(label, { ...layer, cleanUp })}
          />
        </LayerKeyframing>
      )}
    </>
  );
}

/** What belongs to the layer's own kind. */
function LayerSection({ stack, strokes, carrying, inHand }: Props) {
  const layer = stack.layer!;
  if (isKey(layer))
    return (
      <LayerKeyframing layer={layer} stack={stack}>
        <KeyEditor layer={layer} stack={stack} inHand={inHand} />
      </LayerKeyframing>
    );
  if (layer.kind === 'shape')
    return (
      <LayerKeyframing layer={layer} stack={stack}>
        <ShapeNumbers layer={layer} onDrag={stack.dragLayer} onSave={stack.saveLayer} />
      </LayerKeyframing>
    );
  if (layer.kind === 'scribble')
    return (
      <>
        <CarryPanel inHand={inHand} carrying={carrying} frame={stack.frame} />
        <ScribbleEditor
          layer={layer}
          frame={stack.frame}
          strokes={strokes}
          tracks={inHand.tracks}
          onDrag={stack.dragLayer}
          onSave={stack.saveLayer}
          onGo={carrying.goTo}
        />
      </>
    );
  if (layer.kind === 'brush') return <BrushEditor layer={layer} stack={stack} inHand={inHand} />;
  if (layer.kind === 'plate') return <PlateEditor layer={layer} stack={stack} inHand={inHand} />;
  return (
    <div className="quiet">
      A group’s layers are combined with one another first:{' '}
      {layer.layers.map((l) => `${l.name} (${l.mode})`).join(', ')}. Ungroup it to change one of them.
    </div>
  );
}
