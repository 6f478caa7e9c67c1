import { useNavigate } from 'react-router';
import { hexFromLab, shotColour, shotTrust } from '@mellow/core';
import type { Shot } from '@mellow/contract';
import type { InHand } from '../../inhand/inHand.ts';
import type { MatchAnswer } from '../../engine/frameProtocol.ts';
import { afterOf, requiredLab, toleranceOf } from '../../ui/colour.ts';
import { verdictOf, verdictText, verdictTitle } from '../../inhand/reviewed.ts';
import { useVerdictsQuery } from '../../data/reviews.ts';
import { DeltaE } from '../../ui/DeltaE.tsx';
import { STATE_TEXT } from '../../ui/stateText.ts';
import { Crop } from './Crop.tsx';
import { isSmallest, roomFor, SIZES, type CellSize, type Shown } from './lineupLook.ts';
import { membersIn, type PieceRow, type WholeRow } from './sightings.ts';

interface Props {
  row: WholeRow;
  column: number;
  shot: Shot;
  inHand: InHand;
  /** What solving would make of a sighting. */
  solvedOf: (sightingId: string) => MatchAnswer | undefined;
  shown: Shown;
  size: CellSize;
  isInHand: boolean;
  /** Takes what the cell shows in hand: of several parts the one that is farthest off. */
  onTake: (row: PieceRow) => void;
}
/**
 * One piece in one shot: its picture, its measured colour as in the reference light, so that a step to the next cell is
 * seen, the requirement under it, and how far they lie apart; of a piece with parts the colours of all.
 */
export function Cell({ row, column, shot, inHand, solvedOf, shown, size, isInHand, onTake }: Props) {
  const navigate = useNavigate();
  const { data: verdicts = [] } = useVerdictsQuery(inHand.document.project.value.id);
  const members = membersIn(row, column);
  const label = `${row.piece.name} in ${shot.name}`;
  const [worst] = members;
  if (!worst)
    return (
      <button
        type="button"
        className="cell empty-cell"
        aria-label={label}
        aria-current={isInHand}
        title={`${row.piece.name} is not isolated in ${shot.name}`}
        onClick={() => {
          onTake(row);
          void navigate(`/projects/${shot.projectId}/isolate`);
        }}
      >
        <span className="slot">{isSmallest(size) ? '' : 'isolate'}</span>
      </button>
    );
  const { measured, sighting } = worst.sighted;
  const solved = solvedOf(sighting!.id);
  const verdict = verdictOf(verdicts, sighting!.id, inHand.colourwayId);
  const state = verdict ? verdictText(verdict) : STATE_TEXT[sighting!.state];
  return (
    <button type="button" className="cell" aria-label={label} aria-current={isInHand} onClick={() => onTake(worst.row)}>
      <Crop piece={worst.row.piece} shot={shot} inHand={inHand} shown={shown} size={SIZES[size]} />
      <span className="swatches">
        {members.map(({ row: { piece, requirement }, sighted }) => {
          const lab = shotColour(afterOf(sighted.measured, requirement) ?? [], shot.light?.matrix);
          const next = solvedOf(sighted.sighting!.id);
          return [
            <i key={piece.id} style={{ background: lab ? hexFromLab(lab) : 'transparent' }} title="measured" />,
            next && <i key={`${piece.id} solved`} style={{ background: hexFromLab(next.reached) }} title="solved" />,
          ];
        })}
      </span>
      <span className="swatches required">
        {members.map(({ row: { piece, requirement } }) => (
          <i
            key={piece.id}
            style={{ background: requirement ? hexFromLab(requiredLab(requirement)) : 'transparent' }}
            title="required"
          />
        ))}
      </span>
      <span className="figures">
        <DeltaE
          value={worst.deltaE}
          tolerance={toleranceOf(worst.row.requirement, inHand.document.project.value.tolerance)}
          trust={measured && shotTrust(measured.frames)}
          fresh={measured?.fresh ?? false}
          room={roomFor(size)}
        />
      </span>
      {!isSmallest(size) && (
        <span className="figures quiet" title={verdict && verdictTitle(verdict)}>
          {solved ? `solved: ΔE ${solved.deltaE.toFixed(2)}` : state}
          {members.length > 1 ? ` · ${worst.row.piece.name}` : ''}
        </span>
      )}
    </button>
  );
}
