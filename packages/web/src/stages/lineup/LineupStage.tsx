import { Button, Popconfirm } from 'antd';
import { lightInWords } from '@mellow/core';
import type { Shot } from '@mellow/contract';
import { setReferenceShot } from '../../commands/match.ts';
import { edit } from '../../editing/editing.ts';
import { useMeasurementsQuery } from '../../data/api.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { toleranceOf } from '../../ui/colour.ts';
import { Cell } from './Cell.tsx';
import { DeltaEChart } from './DeltaEChart.tsx';
import { lightText, pieceRow, type PieceRow } from './sightings.ts';
import { useLineup, type Lineup } from './useLineup.ts';

/** Every sighting of every piece side by side, measured against its requirement, each shot in its own light. */
export default function LineupStage({ inHand }: { inHand: InHand }) {
  const { document, colourwayId } = inHand;
  const { data: measurements = [] } = useMeasurementsQuery(document.project.value.id);
  const lineup = useLineup(inHand);
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
              <ShotHead key={s.id} shot={s} inHand={inHand} lineup={lineup} />
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.piece.id}>
              <PieceHead row={row} lineup={lineup} />
              {row.sightings.map((sighted) => (
                <td key={sighted.shot.id} data-cell={`${row.piece.name} ${sighted.shot.name}`}>
                  <Cell
                    row={row}
                    sighted={sighted}
                    inHand={inHand}
                    solved={sighted.sighting && lineup.solved.get(sighted.sighting.id)}
                    onSolve={() => lineup.solve(row, [sighted.shot])}
                  />
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

function ShotHead({ shot, inHand: { document }, lineup }: { shot: Shot; inHand: InHand; lineup: Lineup }) {
  const isReference = lineup.reference?.id === shot.id;
  return (
    <th>
      {shot.name}
      <div className="quiet" style={{ fontWeight: 400 }}>
        {isReference ? 'reference shot' : lightText(shot.light ? lightInWords(shot.light.matrix) : undefined)}
      </div>
      {isReference ? null : (
        <div className="row" style={{ fontWeight: 400 }}>
          <Button
            size="small"
            type="text"
            onClick={() => edit(document.project.value.id, setReferenceShot(document, shot))}
          >
            Make it the reference
          </Button>
          {shot.light && (
            <Button size="small" type="text" onClick={() => lineup.dropLight(shot)}>
              No light
            </Button>
          )}
        </div>
      )}
    </th>
  );
}

/** The piece and what can be done to all its sightings at once. */
function PieceHead({ row, lineup }: { row: PieceRow; lineup: Lineup }) {
  const { piece, requirement, spread, sightings } = row;
  const isSolved = sightings.some((s) => s.sighting && lineup.solved.has(s.sighting.id));
  const isInReference = sightings.some((s) => s.shot.id === lineup.reference?.id && s.sighting?.layers.length);
  return (
    <th style={{ minWidth: 150, verticalAlign: 'top' }}>
      {piece.name}
      <div className="quiet" style={{ fontWeight: 400 }}>
        {requirement?.name ?? 'no requirement'}
      </div>
      {spread !== undefined && (
        <div className="mono" style={{ fontWeight: 400 }} title="Largest ΔE00 between two sightings">
          spread {spread.toFixed(2)}
        </div>
      )}
      <div className="row-actions">
        <Popconfirm
          title={`Is the ${piece.name} of the same lot in all shots?`}
          description="Its old colour tells the shots’ lights only if it is the same thing everywhere."
          okText="It is"
          cancelText="It is not"
          onConfirm={() => lineup.takeLights(row)}
        >
          <Button size="small" disabled={!isInReference} loading={lineup.busy === `lights ${piece.id}`}>
            Take lights
          </Button>
        </Popconfirm>
        {isSolved ? (
          <>
            <Button size="small" type="primary" onClick={() => lineup.apply(row)}>
              Apply trims
            </Button>
            <Button size="small" onClick={lineup.drop}>
              Leave it
            </Button>
          </>
        ) : (
          <Button
            size="small"
            disabled={!requirement}
            loading={lineup.busy === `solve ${piece.id}`}
            onClick={() => lineup.solve(row)}
          >
            Solve trims
          </Button>
        )}
        <Button size="small" type="text" onClick={() => lineup.clearTrims(row)}>
          No trims
        </Button>
      </div>
    </th>
  );
}
