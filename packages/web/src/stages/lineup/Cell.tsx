import { Button } from 'antd';
import { useNavigate } from 'react-router';
import { drift, hexFromLab, shotColour, shotTrust } from '@mellow/core';
import { useAppDispatch } from '../../app/store.ts';
import type { InHand } from '../../inhand/inHand.ts';
import type { MatchAnswer } from '../../engine/frameProtocol.ts';
import { afterOf, deltaEOf, lchText, meanHex, requiredHex, toleranceOf } from '../../ui/colour.ts';
import { DeltaE } from '../../ui/DeltaE.tsx';
import { moved } from '../../view/whereSlice.ts';
import { Crop } from './Crop.tsx';
import type { PieceRow, Sighted } from './sightings.ts';
import { whyOff } from './why.ts';

interface CellProps {
  row: PieceRow;
  sighted: Sighted;
  inHand: InHand;
  /** What solving would make of it. */
  solved: MatchAnswer | undefined;
  onSolve: () => void;
}
/** One piece in one shot: its picture, measured against required, and what can be done about it. */
export function Cell({ row: { piece, requirement }, sighted, inHand, solved, onSolve }: CellProps) {
  const { shot, sighting, measured } = sighted;
  const open = { pieceId: piece.id, shotId: shot.id, projectId: inHand.document.project.value.id };
  if (!sighting?.layers.length)
    return (
      <>
        <p className="quiet" style={{ marginTop: 6 }}>
          Not isolated in this shot.
        </p>
        <Open {...open} stage="isolate" label="Isolate here" />
      </>
    );
  const after = afterOf(measured);
  const lab = shotColour(after ?? [], shot.light?.matrix);
  const isTrimmed = inHand.colourwayId !== undefined && inHand.colourwayId in sighting.trims;
  const { document, colourwayId } = inHand;
  const why = whyOff({
    sighted,
    requirement,
    tolerance: toleranceOf(requirement, document.project.value.tolerance),
    recipe: document.recipes.find((r) => r.value.pieceId === piece.id && r.value.colourwayId === colourwayId)?.value,
    referenceShotId: document.project.value.referenceShotId,
    isTrimmed,
  });
  return (
    <>
      <Crop piece={piece} shot={shot} inHand={inHand} />
      <div className="patches">
        <div style={{ background: meanHex(after ?? []) ?? 'transparent' }} title="measured" />
        {solved && <div style={{ background: hexFromLab(solved.reached) }} title="solved" />}
        <div style={{ background: requiredHex(requirement, shot) ?? 'transparent' }} title="required" />
      </div>
      <div className="quiet">measured {solved ? '→ solved ' : ''}| required</div>
      <div>
        <DeltaE
          value={deltaEOf(after, requirement, shot)}
          tolerance={toleranceOf(requirement, inHand.document.project.value.tolerance)}
          trust={measured && shotTrust(measured.frames)}
          fresh={measured?.fresh ?? false}
        />
        {solved && <div className="mono">→ ΔE {solved.deltaE.toFixed(2)}</div>}
      </div>
      {lab && (
        <div className="mono quiet">
          {lchText(lab, 0)} · drift {drift(after ?? []).toFixed(2)}
          {isTrimmed ? ' · trimmed' : ''}
        </div>
      )}
      {why.length > 0 && (
        <ul className="why quiet">
          {why.map((reason) => (
            <li key={reason}>{reason}</li>
          ))}
        </ul>
      )}
      <div className="row">
        <Open {...open} stage="recolour" label="Open" />
        <Button size="small" style={{ marginTop: 6 }} disabled={!requirement} onClick={onSolve}>
          Solve here
        </Button>
      </div>
    </>
  );
}

interface OpenProps {
  projectId: string;
  pieceId: string;
  shotId: string;
  stage: string;
  label: string;
}
function Open({ projectId, pieceId, shotId, stage, label }: OpenProps) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const go = () => {
    dispatch(moved({ pieceId, shotId, layerId: null }));
    void navigate(`/projects/${projectId}/${stage}`);
  };
  return (
    <Button size="small" style={{ marginTop: 6 }} onClick={go}>
      {label}
    </Button>
  );
}
