import { useEffect, useMemo } from 'react';
import { labFromLinear709 } from '@mellow/core';
import { nextPatchName, setPatches } from '../../commands/match.ts';
import { stateRequirement } from '../../commands/requirement.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { documentOf, edit, tellProblem } from '../../editing/editing.ts';
import { frameClient } from '../../engine/frameClient.ts';
import { frameRefOf } from '../../inhand/frameScene.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { usePlace } from '../../inhand/useInHand.ts';
import { pickingFor } from '../../view/handSlice.ts';
import { workByPicking, type ViewerWork } from '../../viewer/viewerWork.ts';

/** What a pick in the picture does at the Recolour stage; undefined while nothing is being picked. */
export function usePicking(inHand: InHand): ViewerWork | undefined {
  const { document, shot, media, requirement } = inHand;
  const place = usePlace(inHand);
  const dispatch = useAppDispatch();
  const pickFor = useAppSelector((s) => s.hand.pickFor);
  // another stage picks for its own
  useEffect(() => () => void dispatch(pickingFor('key')), [dispatch]);
  return useMemo(() => {
    if (pickFor === 'key' || pickFor === 'balance' || !shot || !media) return undefined;
    const projectId = document.project.value.id;
    const reference = document.shots.find((s) => s.value.id === document.project.value.referenceShotId)?.value;
    const addPatch = (rect: { x0: number; y0: number; x1: number; y1: number }) => {
      const isNeutral = pickFor === 'neutral';
      const name = nextPatchName(shot, reference, isNeutral);
      const patch = { name, isNeutral, frame: place.frame, ...rect };
      edit(projectId, setPatches(shot, [...shot.patches, patch], `Pick patch ${name} in ${shot.name}`));
    };
    const require = async (rect: { x0: number; y0: number; x1: number; y1: number }) => {
      const frame = frameRefOf(document, shot, media, place.frame);
      const { means } = await frameClient().ask({ kind: 'patch colours', patches: [{ frame, ...rect }] });
      const stated = {
        name: `Picked in ${shot.name}`,
        lab: labFromLinear709(means[0]!),
        illuminant: 'D65' as const,
        tolerance: requirement?.tolerance ?? null,
        note: requirement?.note ?? '',
        asInShotId: null,
        of: requirement?.of ?? 'mean',
      };
      edit(projectId, stateRequirement(documentOf(projectId) ?? document, place, stated));
    };
    return workByPicking((_sign, rect) => {
      dispatch(pickingFor('key'));
      if (pickFor === 'requirement') void require(rect).catch(tellProblem);
      else addPatch(rect);
    });
  }, [pickFor, document, shot, media, place, requirement, dispatch]);
}
