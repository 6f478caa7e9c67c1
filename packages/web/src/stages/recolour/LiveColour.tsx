import { ciede2000 } from '@mellow/core';
import { useAppSelector } from '../../app/store.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { lchText, linearHex, requiredHex, requiredLab, toleranceOf } from '../../ui/colour.ts';
import { DeltaE } from '../../ui/DeltaE.tsx';

/** The piece's colour on the shown frame: source, now, required. */
export function LiveColour({ inHand: { document, requirement } }: { inHand: InHand }) {
  const live = useAppSelector((s) => s.live);
  if (!live) return null;
  const { before, after, coverage, resultClippedShare } = live;
  return (
    <div className="card">
      <div className="patches" style={{ marginTop: 0 }}>
        <div style={{ background: linearHex(before.meanLinear) }} title="source" />
        <div style={{ background: linearHex(after.meanLinear) }} title="now" />
        {requirement && <div style={{ background: requiredHex(requirement)! }} title="required" />}
      </div>
      <div className="quiet">source → now{requirement ? ' | required' : ''}</div>
      <div>
        <DeltaE
          value={requirement && ciede2000(after.lab, requiredLab(requirement))}
          tolerance={toleranceOf(requirement, document.project.value.tolerance)}
          trust={{ coverage, clipped: resultClippedShare }}
        />
      </div>
      <div className="mono">
        {lchText(after.lab)} <span className="quiet">this frame</span>
      </div>
    </div>
  );
}
