import { useMemo } from 'react';
import type { ScribbleLayer } from '@mellow/contract';
import { useAppDispatch } from '../../app/store.ts';
import { carryScribble, cutScribbleAnew } from '../../commands/strokes.ts';
import { useCancelJobMutation, useCarryMutation, useJobsQuery } from '../../data/api.ts';
import { problemText } from '../../data/requests.ts';
import { documentOf, edit, settled, tellProblem } from '../../editing/editing.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { usePlace } from '../../inhand/useInHand.ts';
import { useCommands } from '../../keys/useCommands.ts';
import { useNewest } from '../../ui/useNewest.ts';
import { moved } from '../../view/whereSlice.ts';
import { carriedStateOf, nextDoubtful } from './carriedState.ts';
import type { Stack } from './useStack.ts';

/** How the scribble in hand is carried through the shot, and the commands on that. */
export function useCarrying(inHand: InHand, stack: Stack) {
  const { document, span, sighting } = inHand;
  const place = usePlace(inHand);
  const dispatch = useAppDispatch();
  const projectId = document.project.value.id;
  const stored = stack.layer && stack.storedLayer(stack.layer.id);
  const layer = stored?.kind === 'scribble' ? stored : undefined;
  const state = useMemo(
    () => (layer?.carried && span ? carriedStateOf(layer, document.carried, span) : undefined),
    [layer, document.carried, span],
  );
  const { data: jobs = [] } = useJobsQuery(projectId);
  const [startCarrying] = useCarryMutation();
  const [cancelJob] = useCancelJobMutation();
  const job = jobs.find(
    (j) => j.kind === 'carry' && j.subject === layer?.id && (j.state === 'queued' || j.state === 'running'),
  );

  /** Carries the selection from all its frames with strokes, after all edits so far have been saved. */
  const carry = async (anew = false) => {
    if (!layer || !sighting || job) return;
    if (!layer.carried) edit(projectId, carryScribble(documentOf(projectId) ?? document, place, layer));
    await settled();
    const { error } = await startCarrying({ projectId, sightingId: sighting.id, layerId: layer.id, anew });
    if (error) tellProblem(new Error(problemText(error)));
  };
  const cutAnew = (carried: ScribbleLayer) =>
    edit(projectId, cutScribbleAnew(documentOf(projectId) ?? document, place, carried));
  const does = useNewest({
    carry,
    cutAnew,
    cancel: () => job && void cancelJob(job.id),
    goTo: (frame: number) => dispatch(moved({ frame })),
  });
  const go = (way: 1 | -1) => {
    const at = state && nextDoubtful(state, place.frame, way);
    if (at !== undefined) does.goTo(at);
  };
  const cannot = layer && !layer.locked ? undefined : 'no scribble in hand that may be changed';
  useCommands({
    carry: { run: () => void does.carry(), cannot },
    previousDoubtful: { run: () => go(-1), cannot },
    nextDoubtful: { run: () => go(1), cannot },
  });
  return useMemo(() => ({ layer, state, job, ...does }), [layer, state, job, does]);
}
export type Carrying = ReturnType<typeof useCarrying>;
