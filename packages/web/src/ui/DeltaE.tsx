import { isLowCoverage, isMuchClipped, judge, type Trust } from '@mellow/core';
import { GLYPH } from './colour.ts';

interface Props {
  value: number | undefined;
  tolerance: number;
  /** Of how much of the piece it is, and how much of it the recolour has clipped. */
  trust: Trust | undefined;
  fresh?: boolean;
  /** `figure`: how far it can be trusted is told by a mark alone, and in words on hover; `barest`: not that either. */
  room?: 'words' | 'figure' | 'barest';
}

/** ΔE00 with its glyph, and how far it can be trusted; neutral on purpose: the numbers speak. */
export function DeltaE({ value, tolerance, trust, fresh = true, room = 'words' }: Props) {
  if (value === undefined && !trust) return <span className="quiet">{fresh ? 'not measured' : 'measuring …'}</span>;
  return (
    <span className="mono">
      {trust && room !== 'barest' && isDoubtful(trust) && <span title={inWords(trust)}>⚠ </span>}
      {value !== undefined && (
        <span
          title={`ΔE00 to the requirement: ${value.toFixed(2)}; ${judge(value, tolerance)} (tolerance ${tolerance})`}
        >
          {GLYPH[judge(value, tolerance)]} {room === 'barest' ? value.toFixed(1) : `ΔE ${value.toFixed(2)}`}
          {trust && room === 'words' && <span className="quiet"> · </span>}
        </span>
      )}
      {trust && room === 'words' && <TrustNote trust={trust} />}
      {fresh ? '' : ' …'}
    </span>
  );
}

/** The colour is that of a part of the piece, or much of it has been cut off. */
const isDoubtful = (trust: Trust): boolean => isLowCoverage(trust) || isMuchClipped(trust);
const inWords = ({ coverage, clipped }: Trust): string =>
  `about ${percent(coverage)} of it is selected; on the worst frame ${percent(clipped)} of it is clipped`;
const percent = (share: number): string => `${Math.round(share * 100)} %`;

/** Coverage and clipping of the result, in full contrast where they put the colour in doubt. */
function TrustNote({ trust }: { trust: Trust }) {
  const { coverage, clipped } = trust;
  return (
    <>
      <span
        className={isLowCoverage(trust) ? undefined : 'quiet'}
        title={`About ${percent(coverage)} of what looks like the piece is selected; its colour is measured there`}
      >
        covers {percent(coverage)}
      </span>
      <span
        className={isMuchClipped(trust) ? undefined : 'quiet'}
        title={`On the worst frame the recolour clips ${percent(clipped)} of the piece’s pixels`}
      >
        , clips {percent(clipped)}
      </span>
    </>
  );
}
