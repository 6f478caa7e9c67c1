import { Button } from 'antd';
import { useNavigate } from 'react-router';
import { drift, shotColour, shotTrust } from '@mellow/core';
import { useAppDispatch } from '../../app/store.ts';
import { useMeasurementsQuery } from '../../data/api.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { afterOf, deltaEOf, lchText, meanHex, requiredHex, toleranceOf } from '../../ui/colour.ts';
import { DeltaE } from '../../ui/DeltaE.tsx';
import { moved } from '../../view/whereSlice.ts';
import { Crop } from './Crop.tsx';
import { DeltaEChart } from './DeltaEChart.tsx';
import { pieceRow, type PieceRow, type Sighted } from './sightings.ts';

/** Every sighting of every piece side by side, measured against its requirement. */
export default function LineupStage({ inHand }: { inHand: InHand }) {
  const { document, colourwayId } = inHand;
  const { data: measurements = [] } = useMeasurementsQuery(document.project.value.id);
  const rows = document.pieces.map(({ value }) => pieceRow(document, measurements, colourwayId, value));
  if (rows.length === 0) return <div className="empty">No piece yet. Add one at the Isolate stage.</div>;
  const rowInHand = rows.find((r) => r.piece.id === inHand.piece?.id);
  return (
    <div className="page">
      <table className="lineup">
        <thead>
          <tr>
            <th />
            {document.shots.map(({ value: s }) => (
              <th key={s.id}>{s.name}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.piece.id}>
              <PieceHead row={row} />
              {row.sightings.map((sighted) => (
                <td key={sighted.shot.id} data-cell={`${row.piece.name} ${sighted.shot.name}`}>
                  <Cell row={row} sighted={sighted} inHand={inHand} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {rowInHand && (
        <DeltaEChart row={rowInHand} tolerance={toleranceOf(rowInHand.requirement, document.project.value.tolerance)} />
      )}
    </div>
  );
}

function PieceHead({ row: { piece, requirement, spread } }: { row: PieceRow }) {
  return (
    <th style={{ minWidth: 120, verticalAlign: 'top' }}>
      {piece.name}
      <div className="quiet" style={{ fontWeight: 400 }}>
        {requirement?.name ?? 'no requirement'}
      </div>
      {spread !== undefined && (
        <div className="mono" style={{ fontWeight: 400 }} title="Largest ΔE00 between two sightings">
          spread {spread.toFixed(2)}
        </div>
      )}
    </th>
  );
}

interface CellProps {
  row: PieceRow;
  sighted: Sighted;
  inHand: InHand;
}
function Cell({ row: { piece, requirement }, sighted, inHand }: CellProps) {
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
  const lab = shotColour(after ?? []);
  return (
    <>
      <Crop piece={piece} shot={shot} inHand={inHand} />
      <div className="patches">
        <div style={{ background: meanHex(after ?? []) ?? 'transparent' }} title="measured" />
        <div style={{ background: requiredHex(requirement) ?? 'transparent' }} title="required" />
      </div>
      <div className="quiet">measured | required</div>
      <div>
        <DeltaE
          value={deltaEOf(after, requirement)}
          tolerance={toleranceOf(requirement, inHand.document.project.value.tolerance)}
          trust={measured && shotTrust(measured.frames)}
          fresh={measured?.fresh ?? false}
        />
      </div>
      {lab && (
        <div className="mono quiet">
          {lchText(lab, 0)} · drift {drift(after ?? []).toFixed(2)}
        </div>
      )}
      <Open {...open} stage="recolour" label="Open" />
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
