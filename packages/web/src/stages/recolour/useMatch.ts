import { useState } from 'react';
import type { Carried } from '@mellow/core';
import { setMatch } from '../../commands/match.ts';
import { documentOf, edit, tellProblem } from '../../editing/editing.ts';
import type { MatchAnswer, MatchWay } from '../../engine/frameProtocol.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { ALL_CARRIED, askMatch } from '../../inhand/matching.ts';
import { usePlace } from '../../inhand/useInHand.ts';

/** Matching the piece in hand with its requirement, over the shot in hand. */
export function useMatch(inHand: InHand) {
  const { document, shot, sighting, requirement } = inHand;
  const place = usePlace(inHand);
  const [carried, setCarried] = useState<Carried>(ALL_CARRIED);
  const [isBusy, setBusy] = useState(false);
  const [answer, setAnswer] = useState<MatchAnswer | 'nothing' | undefined>();
  const projectId = document.project.value.id;
  const match = async (way: Exclude<MatchWay, 'trim'>) => {
    if (!shot || !sighting || !requirement) return;
    setBusy(true);
    try {
      const found = await askMatch(inHand, { shot, sighting, requirement, way, carried });
      setAnswer(found ?? 'nothing');
      if (found) edit(projectId, setMatch(documentOf(projectId) ?? document, place, found));
    } catch (error) {
      tellProblem(error);
    }
    setBusy(false);
  };
  return {
    carried,
    setCarried,
    isBusy,
    answer,
    canMatch: Boolean(sighting?.layers.length && requirement),
    match: (way: Exclude<MatchWay, 'trim'>) => void match(way),
  };
}
