import type { Requirement } from '@mellow/contract';
import {
  ciede2000,
  d65LabFrom,
  hexFromLab,
  hexFromLinear709,
  judge,
  shotColour,
  type Judgement,
  type Lab,
} from '@mellow/core';

/** The mark and the piece's from → to: two overlapping rounded squares. */
export function SwatchPair({ from, to, size = 20 }: { from: string | null; to: string | null; size?: number }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 32 32"
      role="img"
      aria-label={`from ${from ?? 'not measured'} to ${to ?? 'no requirement'}`}
      style={{ flex: 'none' }}
    >
      <rect
        x="3"
        y="3"
        width="18"
        height="18"
        rx="5"
        fill={from ?? 'none'}
        stroke="currentColor"
        strokeOpacity={from ? 0 : 0.5}
        strokeDasharray="3 2"
      />
      <rect
        x="11"
        y="11"
        width="18"
        height="18"
        rx="5"
        fill={to ?? 'none'}
        stroke="currentColor"
        strokeOpacity={to ? 0 : 0.5}
        strokeDasharray="3 2"
      />
    </svg>
  );
}

const GLYPH: Record<Judgement, string> = { matches: '✓', close: '≈', off: '✕' };
/** ΔE00 with its glyph and word; neutral on purpose: the number speaks. */
export function DeltaE({
  value,
  tolerance,
  fresh = true,
}: {
  value: number | undefined;
  tolerance: number;
  fresh?: boolean;
}) {
  if (value === undefined) return <span className="quiet">{fresh ? 'not measured' : 'measuring …'}</span>;
  const judgement = judge(value, tolerance);
  return (
    <span
      className="mono"
      title={`ΔE00 to the requirement: ${value.toFixed(2)}; ${judgement} (tolerance ${tolerance})`}
    >
      {GLYPH[judgement]} ΔE {value.toFixed(2)}
      {fresh ? '' : ' …'}
    </span>
  );
}

export const requiredLab = (requirement: Requirement): Lab => d65LabFrom(requirement.lab, requirement.illuminant);
export const requiredHex = (requirement: Requirement | undefined): string | null =>
  requirement ? hexFromLab(requiredLab(requirement)) : null;
export const meanHex = (frames: readonly { meanLinear: readonly number[] }[]): string | null => {
  const lab = shotColour(frames as never);
  return lab ? hexFromLab(lab) : null;
};
export const linearHex = (linear: readonly number[]): string => hexFromLinear709(linear);
/** ΔE00 between the mean over frames and the requirement; undefined without either. */
export function deltaEOf(
  frames: readonly { meanLinear: readonly [number, number, number] }[] | undefined,
  requirement: Requirement | undefined,
): number | undefined {
  const lab = frames && shotColour(frames);
  return lab && requirement ? ciede2000(lab, requiredLab(requirement)) : undefined;
}
export const toleranceOf = (requirement: Requirement | undefined, projectTolerance: number): number =>
  requirement?.tolerance ?? projectTolerance;
