import { useMemo } from 'react';
import type { ProjectDocument, RunResult } from '@mellow/contract';
import { useStage } from '../app/stages.ts';
import { useAppSelector } from '../app/store.ts';
import type { Place } from '../commands/place.ts';
import { useTracksQuery } from '../data/api.ts';
import { useCalmly } from './useCalmly.ts';
import { useFrame } from './useFrame.ts';
import { inHandOf, motionsByShot, type InHand } from './inHand.ts';
import { withDraft } from './withDraft.ts';

const NO_RUNS: RunResult[] = [];

/** The document with the draft of a moving hand laid over it. It changes with every move. */
export function useDrafted(document: ProjectDocument): ProjectDocument {
  const draft = useAppSelector((s) => s.draft);
  return useMemo(() => withDraft(document, draft), [document, draft]);
}

/** The same for what need not follow every move: as it was when the hand last rested. */
export function useDraftedCalmly(document: ProjectDocument): ProjectDocument {
  const draft = useAppSelector((s) => s.draft);
  const calm = useCalmly(draft, Object.keys(draft).length > 0);
  return useMemo(() => withDraft(document, calm), [document, calm]);
}

/** What of a document is in hand. */
export function useInHand(document: ProjectDocument): InHand {
  // one by one: the frame is no part of it
  const shotId = useAppSelector((s) => s.where.shotId);
  const pieceId = useAppSelector((s) => s.where.pieceId);
  const colourwayId = useAppSelector((s) => s.where.colourwayId);
  const { data: runs = NO_RUNS } = useTracksQuery(document.project.value.id);
  const motions = useMemo(() => motionsByShot(document.tracks, runs), [document.tracks, runs]);
  return useMemo(
    () => inHandOf(document, { shotId, pieceId, colourwayId }, motions, runs),
    [document, shotId, pieceId, colourwayId, motions, runs],
  );
}

/** Where commands act now. */
export function usePlace(inHand: InHand): Place {
  const { shot, piece, colourwayId, motions } = inHand;
  const layerId = useAppSelector((s) => s.where.layerId);
  const frame = useFrame(inHand);
  const stage = useStage();
  const { auto: autoAt, everywhere, ease } = useAppSelector((s) => s.keyframing.mode);
  // a recolour that is animated leaves the frames before as they were judged
  const auto = (autoAt[stage] ?? false) && (stage === 'recolour' ? ('from here' as const) : true);
  const [shotId, pieceId] = [shot?.id, piece?.id];
  return useMemo(
    () => ({ shotId, pieceId, colourwayId, layerId, frame, keyframing: { frame, auto, everywhere, ease }, motions }),
    [shotId, pieceId, colourwayId, layerId, frame, auto, everywhere, ease, motions],
  );
}
