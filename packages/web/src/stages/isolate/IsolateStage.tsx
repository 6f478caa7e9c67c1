import { Button, Segmented } from 'antd';
import { Film, Pipette } from 'lucide-react';
import { lazy, Suspense, useMemo, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { StageSplit } from '../../app/StageSplit.tsx';
import type { InHand } from '../../inhand/inHand.ts';
import { KeyTip } from '../../keys/KeyTip.tsx';
import { useCommands } from '../../keys/useCommands.ts';
import { toolChosen } from '../../view/handSlice.ts';
import { ViewerPane } from '../../viewer/ViewerPane.tsx';
import { AddMenu } from './AddMenu.tsx';
import { BrushSettings } from './BrushSettings.tsx';
import { lanesOf, stripsOf } from './lanesOf.ts';
import { MeterLine } from './MeterLine.tsx';
import { PasteButton } from './PasteButton.tsx';
import { PieceBar } from './PieceBar.tsx';
import { Section, SECTIONS, type SectionName } from './Section.tsx';
import { ScribbleTools } from './ScribbleTools.tsx';
import { StackList } from './StackList.tsx';
import { useIsolateWork } from './useIsolateWork.ts';
import { useOverTime } from './useOverTime.ts';
import { useStack } from './useStack.ts';
import { useStrokes } from './useStrokes.ts';
import { carriedStrips, doubtfulFrames } from './carriedState.ts';
import { useCarrying } from './useCarrying.ts';
import { useTracks } from './useTracks.ts';

const Filmstrip = lazy(() => import('./Filmstrip.tsx'));

/** Isolates the piece in hand: its matte stack beside the picture. */
export default function IsolateStage({ inHand }: { inHand: InHand }) {
  const { shot, piece } = inHand;
  const stack = useStack(inHand);
  const tracks = useTracks(inHand);
  const overTime = useOverTime(inHand, tracks.track?.id);
  const strokes = useStrokes(stack, inHand.document.project.value.id);
  const [section, setSection] = useState<SectionName>('Layer');
  const work = useIsolateWork(inHand, stack, tracks, strokes, section, setSection);
  const frames = inHand.media?.frames ?? 0;
  const lanes = useMemo(() => lanesOf(stack, tracks, inHand), [stack, tracks, inHand]);
  const carrying = useCarrying(inHand, stack);
  const strips = useMemo(
    () => [...carriedStrips(carrying.layer, carrying.state), ...stripsOf(tracks, frames), ...overTime.strips],
    [carrying, tracks, frames, overTime.strips],
  );
  const [filmstrip, setFilmstrip] = useState(false);
  useCommands({ filmstrip: { run: () => setFilmstrip(true), isOn: filmstrip } });
  const doubtful = useMemo(() => doubtfulFrames(carrying.state), [carrying.state]);
  const hasLayers = stack.layers.length > 0;
  const isPainting = useAppSelector((s) => s.hand.tool.startsWith('brush'));
  const isScribbling = useAppSelector((s) => s.hand.tool.startsWith('scribble'));
  const panel = (
    <>
      <PieceBar inHand={inHand} />
      {piece && shot && (
        <>
          <h2>
            Matte stack <span className="quiet">top first</span>
            <span style={{ flex: 1 }} />
            {hasLayers && (
              <KeyTip id="filmstrip" title="The piece on every frame">
                <Button
                  size="small"
                  type="text"
                  icon={<Film size={14} />}
                  aria-label="Filmstrip"
                  onClick={() => setFilmstrip(true)}
                />
              </KeyTip>
            )}
            <PasteButton stack={stack} inHand={inHand} />
            <AddMenu stack={stack} />
          </h2>
          {!hasLayers && <NothingIsolated piece={piece.name} shot={shot.name} />}
          <MeterLine inHand={inHand} frame={stack.frame} />
          <StackList stack={stack} inHand={inHand} />
          {isScribbling && stack.layer?.kind !== 'scribble' && <ScribbleTools />}
          {isPainting && stack.layer?.kind !== 'brush' && <BrushSettings inHand={inHand} />}
          <Segmented size="small" aria-label="Section" options={[...SECTIONS]} value={section} onChange={setSection} />
          {(hasLayers || section === 'Track') && (
            <Section
              section={section}
              stack={stack}
              tracks={tracks}
              strokes={strokes}
              carrying={carrying}
              overTime={overTime}
              inHand={inHand}
            />
          )}
        </>
      )}
    </>
  );
  return (
    <StageSplit inHand={inHand} panel={panel}>
      <ViewerPane inHand={inHand} work={work} lanes={lanes} strips={strips} />
      {filmstrip && (
        <Suspense fallback={null}>
          <Filmstrip
            inHand={inHand}
            doubtful={doubtful}
            frame={stack.frame}
            onGo={carrying.goTo}
            onClose={() => setFilmstrip(false)}
          />
        </Suspense>
      )}
    </StageSplit>
  );
}

function NothingIsolated({ piece, shot }: { piece: string; shot: string }) {
  const dispatch = useAppDispatch();
  return (
    <div className="empty">
      <p>
        Nothing of the {piece} is selected in {shot} yet. Pick its colour in the picture, or draw round it first.
      </p>
      <Button type="primary" icon={<Pipette size={14} />} onClick={() => dispatch(toolChosen('pick-add'))}>
        Pick its colour
      </Button>
    </div>
  );
}
