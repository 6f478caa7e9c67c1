import { useEffect, useState } from 'react';
import { inShotLight, linear709FromLab, NEUTRAL_RECIPE, oklabFromLinear709 } from '@mellow/core';
import { frameClient } from '../../engine/frameClient.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { scenesOf } from '../../inhand/matching.ts';
import { requiredLab, toleranceOf } from '../../ui/colour.ts';

type Outline = readonly { a: number; b: number }[];
/** It is asked for when the hand rests. */
const REST_MS = 900;
/** A few frames are enough to see what is cut off. */
const FRAMES = 3;

/** What the piece in hand can be matched to at the required lightness, in this shot; undefined until it is known. */
export function useReach(inHand: InHand): Outline | undefined {
  const { document, shot, piece, sighting, requirement, colourwayId, motions, motionsOf } = inHand;
  const [outline, setOutline] = useState<Outline | undefined>();
  // recolours do not matter to it: mattes, footage, light and lightness do
  const depends = JSON.stringify([
    sighting?.layers,
    sighting?.cleanUp,
    shot?.id,
    shot?.light,
    shot?.balance,
    requirement,
    document.project.value.tolerance,
    shot && document.proxies[shot.mediaId]?.state,
  ]);
  useEffect(() => {
    setOutline(undefined);
    if (!shot || !piece || !sighting?.layers.length || !requirement) return;
    let isWanted = true;
    const ask = async () => {
      const light = shot.light?.matrix;
      const required = inShotLight(light, requiredLab(requirement));
      const scenes = scenesOf({ document, colourwayId, motionsOf }, shot, piece.id, FRAMES);
      const found = await frameClient().ask({
        kind: 'reach',
        scenes,
        lightness: oklabFromLinear709(linear709FromLab(required)).L,
        tolerance: toleranceOf(requirement, document.project.value.tolerance),
        recipe: NEUTRAL_RECIPE,
        ...(light && { light }),
      });
      if (isWanted) setOutline(found?.outline);
    };
    const timer = setTimeout(() => void ask().catch(() => undefined), REST_MS);
    return () => {
      isWanted = false;
      clearTimeout(timer);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `depends` says what of the document it hangs on
  }, [depends, motions]);
  return outline;
}
