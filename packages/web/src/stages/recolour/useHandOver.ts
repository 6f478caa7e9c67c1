import { useState } from 'react';
import { problemText } from '../../data/requests.ts';
import { frameClient } from '../../engine/frameClient.ts';
import { frameSceneAt } from '../../inhand/frameScene.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { useFrame } from '../../inhand/useFrame.ts';
import { saveFile } from '../../ui/saveFile.ts';

/** A CDL that misses the recipe by more than this anywhere is another recipe, ΔE00. */
const CDL_MAY_MISS = 1;

interface Misses {
  meanDeltaE: number;
  worstDeltaE: number;
  beyond: readonly string[];
}
const missesText = ({ meanDeltaE, worstDeltaE }: Misses) =>
  `off the recipe by ΔE ${meanDeltaE.toFixed(2)} on average, ${worstDeltaE.toFixed(2)} at the most`;
const beyondText = ({ beyond }: Misses) => (beyond.length > 0 ? ` It cannot hold ${beyond.join(' and ')}.` : '');

/** Saves the recipe on this frame as files for other programs, and says how well they hold it. */
export function useHandOver(inHand: InHand) {
  const { document, shot, media, piece, colourwayId, motions } = inHand;
  const frame = useFrame(inHand);
  const [said, setSaid] = useState<string>();
  /** What there is to hand over, and what its files are called; undefined: nothing. */
  const inSight = () => {
    if (!shot || !media || !piece) return undefined;
    const scene = frameSceneAt({ document, shot, media, colourwayId, pieceId: piece.id, motions }, frame, false);
    const sighting = scene.sightings[scene.index];
    const colourway = document.colourways.find((c) => c.value.id === colourwayId)?.value.name ?? '';
    const name = `${piece.name} ${colourway} ${shot.name}`;
    return sighting && { name, program: sighting.program, encoding: shot.encoding };
  };
  const saying = (work: (what: NonNullable<ReturnType<typeof inSight>>) => Promise<string>) => {
    const what = inSight();
    if (!what) return;
    work(what).then(setSaid, (error: unknown) => setSaid(error instanceof Error ? error.message : problemText(error)));
  };
  return {
    said,
    saveTable: (as: 'cube' | 'clf', size: number) =>
      saying(async ({ name, ...of }) => {
        const answer = await frameClient().ask({ kind: 'recipe cube', title: name, ...of, size, as });
        saveFile(`${name}.${as}`, answer.text, as === 'clf' ? 'application/xml' : 'text/plain');
        return `Between its entries the table is ${missesText(answer)}.${beyondText(answer)}`;
      }),
    saveCdl: () =>
      saying(async ({ name, ...of }) => {
        const answer = await frameClient().ask({ kind: 'recipe CDL', ...of });
        if (answer.worstDeltaE > CDL_MAY_MISS)
          return `Not saved: no CDL can be this recipe. The nearest is ${missesText(answer)}; a table holds it.`;
        const { cdlText } = await import('../../commands/cdlFile.ts');
        saveFile(`${name}.cc`, cdlText(name, answer.cdl), 'application/xml');
        return `The CDL is ${missesText(answer)}.${beyondText(answer)}`;
      }),
  };
}
