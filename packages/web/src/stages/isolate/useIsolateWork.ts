import { useMemo } from 'react';
import type { Geometry, KeyLayer } from '@mellow/contract';
import { NO_SPILL } from '@mellow/core';
import { store, useAppDispatch, useAppSelector } from '../../app/store.ts';
import { isKey, newShape } from '../../commands/layers.ts';
import { tellProblem } from '../../editing/editing.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { drawingFor, toolChosen, type DrawFor } from '../../view/handSlice.ts';
import type { ViewerWork } from '../../viewer/viewerWork.ts';
import { inTheHand } from './inTheHand.ts';
import { outlinesAround, outlinesOn, outlinesWhileTracking } from './outlines.ts';
import type { SectionName } from './Section.tsx';
import type { Stack } from './useStack.ts';
import type { Strokes } from './useStrokes.ts';
import type { Tracks } from './useTracks.ts';

/** Dots of this frame, and of any frame when they ride on a track; each knows its place in the list of picks. */
const dotsOf = (key: KeyLayer | undefined, { pickPlace, frame }: Stack) =>
  (key?.picks ?? []).flatMap((pick, index) => {
    const p = pickPlace(key!, pick);
    return p.frame === frame ? [{ index, x: (p.x0 + p.x1) / 2, y: (p.y0 + p.y1) / 2, sign: p.sign }] : [];
  });

/** What a drawn shape becomes. */
function drawnFor(drawFor: DrawFor, geometry: Geometry, stack: Stack, tracks: Tracks): void {
  if (drawFor === 'track') return tracks.create(geometry);
  if (drawFor === 'hold-out') return tracks.addHoldOut(geometry);
  if (drawFor === 'spill') {
    const within = { geometry, feather: { innerPx: 0, outerPx: 8, falloff: 'smooth' as const } };
    return stack.saveWhole('Draw where spill is looked for', {
      spill: { ...(stack.shown?.spill ?? NO_SPILL), within },
    });
  }
  const made = newShape(stack.layers, geometry);
  stack.add(made, `Draw ${made.name}`);
}
/** The section in which what was drawn is worked on. */
function sectionAfter(drawFor: DrawFor, section: SectionName): SectionName {
  if (drawFor === 'track' || drawFor === 'hold-out') return 'Track';
  return drawFor === 'layer' && section === 'Track' ? 'Layer' : section;
}

/** What can be done on the picture at the Isolate stage. */
export function useIsolateWork(
  inHand: InHand,
  stack: Stack,
  tracks: Tracks,
  strokes: Strokes,
  section: SectionName,
  setSection: (section: SectionName) => void,
): ViewerWork | undefined {
  const dispatch = useAppDispatch();
  const drawFor = useAppSelector((s) => s.hand.drawFor);
  const projectId = inHand.document.project.value.id;
  const frames = inHand.media?.frames ?? 1;
  const hasPiece = inHand.piece !== undefined;
  return useMemo(() => {
    if (!hasPiece) return undefined;
    const { layer } = stack;
    const isTracking = section === 'Track';
    const key = isKey(layer) && !layer.locked ? layer : undefined;
    const dots = isTracking ? [] : dotsOf(key, stack);
    const held = inTheHand(section, stack, tracks, projectId);
    const isScribbling = !isTracking && section !== 'Spill' && strokes.scribble !== undefined;
    return {
      picked: (sign, rect) => void stack.pick(sign, rect).catch(tellProblem),
      drawn(geometry) {
        dispatch(toolChosen('select'));
        if (drawFor !== 'layer') dispatch(drawingFor('layer'));
        drawnFor(drawFor, geometry, stack, tracks);
        setSection(sectionAfter(drawFor, section));
      },
      scribbled: stack.scribble,
      brushPx: () => store.getState().hand.brush.widthPx,
      painted: stack.painted,
      grown: strokes.grown,
      strokes: isScribbling ? strokes.here : [],
      strokeAt: strokes.chosen?.at,
      strokeWork:
        isScribbling && !strokes.scribble?.locked ? { chosen: strokes.choose, changed: strokes.changed } : undefined,
      shape: held?.shape,
      shapeOf: held?.of,
      shapeChanged: (...event) => held?.changed(...event),
      dots,
      dotMoved: (at, to) => key && void stack.movePick(key, dots[at]!.index, to).catch(tellProblem),
      outlines: isTracking ? outlinesWhileTracking(tracks, stack) : outlinesAround(stack, frames),
      outlinesAt: (frame) => outlinesOn(frame, isTracking, tracks, stack),
    };
  }, [hasPiece, stack, tracks, strokes, section, setSection, drawFor, projectId, frames, dispatch]);
}
