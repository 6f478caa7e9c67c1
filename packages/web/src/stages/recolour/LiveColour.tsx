import { useAppSelector } from '../../app/store.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { TextureNote } from './TextureNote.tsx';
import { comparedWith, deltaEOf, lchText, linearHex, requiredHex, toleranceOf } from '../../ui/colour.ts';
import { DeltaE } from '../../ui/DeltaE.tsx';

/** The piece's colour on the shown frame: source, now, required. */
export function LiveColour({ inHand }: { inHand: InHand }) {
  const { document, requirement, shot } = inHand;
  const live = useAppSelector((s) => s.live);
  const shown = useAppSelector((s) => s.where.frame);
  if (!live) return null;
  const { before, coverage, resultClippedShare } = live;
  const after = comparedWith(requirement, live.after);
  return (
    <div className="card">
      <div className="patches" style={{ marginTop: 0 }}>
        <div style={{ background: linearHex(before.meanLinear) }} title="source" />
        <div style={{ background: linearHex(after.meanLinear) }} title="now" />
        {requirement && <div style={{ background: requiredHex(requirement, shot)! }} title="required" />}
      </div>
      <div className="quiet">source → now{requirement ? ' | required' : ''}</div>
      <div>
        <DeltaE
          value={deltaEOf([after], requirement, shot)}
          tolerance={toleranceOf(requirement, document.project.value.tolerance)}
          trust={{ coverage, clipped: resultClippedShare }}
        />
      </div>
      <div className="mono">
        {lchText(after.lab)}{' '}
        <span className="quiet">{live.frame === shown ? 'this frame' : `frame ${live.frame} …`}</span>
      </div>
      <TextureNote inHand={inHand} />
    </div>
  );
}
