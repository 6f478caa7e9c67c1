import { useAppSelector } from '../../app/store.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { useFrame } from '../../inhand/useFrame.ts';
import { comparedWith, deltaEOf, lchText, linearHex, requiredHex, toleranceOf } from '../../ui/colour.ts';
import { DeltaE } from '../../ui/DeltaE.tsx';

const percent = (share: number): string => `${Math.round(100 * share)} %`;

/** The piece's colour on the shown frame: source, now, required; its place is there before its figures are. */
export function LiveColour({ inHand }: { inHand: InHand }) {
  const { document, requirement, shot } = inHand;
  const live = useAppSelector((s) => s.live);
  const frame = useFrame(inHand);
  const after = live && comparedWith(requirement, live.after);
  return (
    <section className="now" aria-label="Measured on this frame">
      <div className="patches" title={requirement ? 'source → now | required' : 'source → now'}>
        <div style={live ? { background: linearHex(live.before.meanLinear) } : {}} />
        <div style={after ? { background: linearHex(after.meanLinear) } : {}} />
        {requirement && <div style={{ background: requiredHex(requirement, shot)! }} />}
      </div>
      {live && after ? (
        <>
          <div className="row">
            <span className="mono grow">{lchText(after.lab)}</span>
            <DeltaE
              value={deltaEOf([after], requirement, shot)}
              tolerance={toleranceOf(requirement, document.project.value.tolerance)}
              trust={{ coverage: live.coverage, clipped: live.resultClippedShare }}
              room="figure"
            />
          </div>
          <div className="quiet">
            {live.frame === frame ? 'this frame' : `frame ${live.frame} …`}: covers {percent(live.coverage)}, clips{' '}
            {percent(live.resultClippedShare)}
          </div>
        </>
      ) : (
        <div className="quiet">Nothing of it is measured on this frame.</div>
      )}
    </section>
  );
}
