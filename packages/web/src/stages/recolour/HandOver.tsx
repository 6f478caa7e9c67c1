import { Button } from 'antd';
import { useState } from 'react';
import { frameClient } from '../../engine/frameClient.ts';
import { frameSceneAt } from '../../inhand/frameScene.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { useFrame } from '../../inhand/useFrame.ts';
import { Fold } from '../../ui/Fold.tsx';
import { saveFile } from '../../ui/saveFile.ts';
import { problemText } from '../../data/requests.ts';

const SIZES = [33, 65] as const;
/** Formats of tables, as a practitioner names them. */
const FORMATS = { cube: '.cube', clf: 'CLF' } as const;

/** The recipe as a file for other programs: a look-up table, with how well it holds the recipe. */
export function HandOver({ inHand }: { inHand: InHand }) {
  const { document, shot, media, piece, colourwayId, motions } = inHand;
  const frame = useFrame(inHand);
  const [said, setSaid] = useState<string>();
  const save = async (as: keyof typeof FORMATS, size: number) => {
    if (!shot || !media || !piece) return;
    const scene = frameSceneAt({ document, shot, media, colourwayId, pieceId: piece.id, motions }, frame, false);
    const sighting = scene.sightings[scene.index];
    if (!sighting) return;
    const colourway = document.colourways.find((c) => c.value.id === colourwayId)?.value.name ?? '';
    const name = `${piece.name} ${colourway} ${shot.name}`;
    const { program } = sighting;
    const asked = { kind: 'recipe cube', title: name, program, encoding: shot.encoding, size, as } as const;
    try {
      const { text, meanDeltaE, worstDeltaE, beyond } = await frameClient().ask(asked);
      saveFile(`${name}.${as}`, text, as === 'clf' ? 'application/xml' : 'text/plain');
      const without = beyond.length > 0 ? ` It cannot hold ${beyond.join(' and ')}.` : '';
      setSaid(
        `Between its entries the table is off the recipe by ΔE ${meanDeltaE.toFixed(2)} on average, ` +
          `${worstDeltaE.toFixed(2)} at the most.${without}`,
      );
    } catch (error) {
      setSaid(error instanceof Error ? error.message : problemText(error));
    }
  };
  return (
    <Fold title="Hand over" label="Hand over the recipe">
      <p className="quiet" style={{ margin: 0 }}>
        The recipe on this frame as a look-up table on the codes of {shot?.name ?? 'the shot'}, for use with its matte.
      </p>
      {(Object.keys(FORMATS) as (keyof typeof FORMATS)[]).map((as) => (
        <div key={as} className="row">
          {SIZES.map((size) => (
            <Button key={size} size="small" disabled={!inHand.sighting} onClick={() => void save(as, size)}>
              Save {FORMATS[as]}, {size} a side
            </Button>
          ))}
        </div>
      ))}
      {said && <div role="status">{said}</div>}
    </Fold>
  );
}
