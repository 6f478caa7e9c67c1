import { Button } from 'antd';
import type { InHand } from '../../inhand/inHand.ts';
import { Fold } from '../../ui/Fold.tsx';
import { useHandOver } from './useHandOver.ts';

const SIZES = [33, 65] as const;
/** Formats of tables, as a practitioner names them. */
const FORMATS = { cube: '.cube', clf: 'CLF' } as const;

/** The recipe as a file for other programs: a look-up table, or a CDL where it can be one. */
export function HandOver({ inHand }: { inHand: InHand }) {
  const { said, saveTable, saveCdl } = useHandOver(inHand);
  const isNothing = !inHand.sighting;
  return (
    <Fold title="Hand over" label="Hand over the recipe">
      <p className="quiet" style={{ margin: 0 }}>
        The recipe on this frame, on the codes of {inHand.shot?.name ?? 'the shot'}, for use with its matte: a look-up
        table, or an ASC CDL where it can be one.
      </p>
      {(Object.keys(FORMATS) as (keyof typeof FORMATS)[]).map((as) => (
        <div key={as} className="row">
          {SIZES.map((size) => (
            <Button key={size} size="small" disabled={isNothing} onClick={() => saveTable(as, size)}>
              Save {FORMATS[as]}, {size} a side
            </Button>
          ))}
        </div>
      ))}
      <div className="row">
        <Button size="small" disabled={isNothing} onClick={saveCdl}>
          Save as CDL (.cc)
        </Button>
      </div>
      {said && <div role="status">{said}</div>}
    </Fold>
  );
}
