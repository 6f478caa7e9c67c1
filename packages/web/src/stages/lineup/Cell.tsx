import { hexFromLab, shotColour, shotTrust } from '@mellow/core';
import type { SightingState } from '@mellow/contract';
import type { InHand } from '../../inhand/inHand.ts';
import type { MatchAnswer } from '../../engine/frameProtocol.ts';
import { afterOf, deltaEOf, requiredLab, toleranceOf } from '../../ui/colour.ts';
import { DeltaE } from '../../ui/DeltaE.tsx';
import { Crop } from './Crop.tsx';
import { SIZES, type CellSize, type Shown } from './lineupLook.ts';
import type { PieceRow, Sighted } from './sightings.ts';

export const STATE_TEXT: Record<SightingState, string> = {
  rough: '○ rough',
  ready: '◐ ready',
  approved: '● approved',
};

interface Props {
  row: PieceRow;
  sighted: Sighted;
  inHand: InHand;
  /** What solving would make of it. */
  solved: MatchAnswer | undefined;
  shown: Shown;
  size: CellSize;
  isInHand: boolean;
  onTake: () => void;
}
/**
 * One piece in one shot: its picture, its measured colour as in the reference light, so that a step to the next cell is
 * seen, the requirement under it, and how far they lie apart.
 */
export function Cell({ row: { piece, requirement }, sighted, inHand, solved, shown, size, isInHand, onTake }: Props) {
  const { shot, sighting, measured } = sighted;
  const label = `${piece.name} in ${shot.name}`;
  if (!sighting?.layers.length)
    return (
      <button type="button" className="cell empty-cell" aria-label={label} aria-current={isInHand} onClick={onTake}>
        <span>no matte</span>
      </button>
    );
  const after = afterOf(measured);
  const lab = shotColour(after ?? [], shot.light?.matrix);
  return (
    <button type="button" className="cell" aria-label={label} aria-current={isInHand} onClick={onTake}>
      <Crop piece={piece} shot={shot} inHand={inHand} shown={shown} size={SIZES[size]} />
      <span className="swatches">
        <i style={{ background: lab ? hexFromLab(lab) : 'transparent' }} title="measured" />
        {solved && <i style={{ background: hexFromLab(solved.reached) }} title="solved" />}
      </span>
      <i
        className="required"
        style={{ background: requirement ? hexFromLab(requiredLab(requirement)) : 'transparent' }}
        title="required"
      />
      <span className="figures">
        <DeltaE
          value={deltaEOf(after, requirement, shot)}
          tolerance={toleranceOf(requirement, inHand.document.project.value.tolerance)}
          trust={measured && shotTrust(measured.frames)}
          fresh={measured?.fresh ?? false}
        />
      </span>
      <span className="figures quiet">
        {solved ? `solved: ΔE ${solved.deltaE.toFixed(2)}` : STATE_TEXT[sighting.state]}
      </span>
    </button>
  );
}
