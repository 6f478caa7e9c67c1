import { isLowCoverage, isMuchClipped, judge, type Judgement, type Trust } from '@mellow/core';

const GLYPH: Record<Judgement, string> = { matches: '✓', close: '≈', off: '✕' };

interface Props {
  value: number | undefined;
  tolerance: number;
  /** Of how much of the piece it is, and how much of it the recolour has clipped. */
  trust: Trust | undefined;
  fresh?: boolean;
}

/** ΔE00 with its glyph, and how far it can be trusted; neutral on purpose: the numbers speak. */
export function DeltaE({ value, tolerance, trust, fresh = true }: Props) {
  if (value === undefined && !trust) return <span className="quiet">{fresh ? 'not measured' : 'measuring …'}</span>;
  return (
    <span className="mono">
      {value !== undefined && (
        <span
          title={`ΔE00 to the requirement: ${value.toFixed(2)}; ${judge(value, tolerance)} (tolerance ${tolerance})`}
        >
          {GLYPH[judge(value, tolerance)]} ΔE {value.toFixed(2)}
          {trust && <span className="quiet"> · </span>}
        </span>
      )}
      {trust && <TrustNote trust={trust} />}
      {fresh ? '' : ' …'}
    </span>
  );
}

const percent = (share: number): string => `${Math.round(share * 100)} %`;

/** Coverage and clipping of the result; marked where the colour is that of a part of the piece, or cut off. */
function TrustNote({ trust }: { trust: Trust }) {
  const { coverage, clipped } = trust;
  return (
    <>
      <span
        className={isLowCoverage(trust) ? undefined : 'quiet'}
        title={`About ${percent(coverage)} of what looks like the piece is selected; its colour is measured there`}
      >
        {isLowCoverage(trust) && '⚠ '}
        {percent(coverage)} covered
      </span>
      {(clipped >= 0.005 || isMuchClipped(trust)) && (
        <span title={`On the worst frame the recolour clips ${percent(clipped)} of the piece’s pixels`}>
          {' · '}
          {isMuchClipped(trust) && '⚠ '}
          {percent(clipped)} clipped
        </span>
      )}
    </>
  );
}
