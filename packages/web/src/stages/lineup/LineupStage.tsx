import { useState } from 'react';
import { useMeasurementsQuery } from '../../data/api.ts';
import { useAppDispatch } from '../../app/store.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { toleranceOf } from '../../ui/colour.ts';
import { moved } from '../../view/whereSlice.ts';
import { Cell } from './Cell.tsx';
import { CellDetails } from './CellDetails.tsx';
import { DeltaEChart } from './DeltaEChart.tsx';
import { Grid } from './Grid.tsx';
import { PieceHead, ShotHead } from './Heads.tsx';
import { HueMap } from './HueMap.tsx';
import { LineupBar } from './LineupBar.tsx';
import { isSmallest, sizeThatFits, type CellSize, type Shown } from './lineupLook.ts';
import { ReportMenu } from './ReportMenu.tsx';
import { ShotBars } from './ShotBars.tsx';
import { membersIn, wholeRows, type PieceRow } from './sightings.ts';
import { useLineup } from './useLineup.ts';

/** Every sighting of every piece side by side, measured against its requirement, each shot in its own light. */
export default function LineupStage({ inHand }: { inHand: InHand }) {
  const { document, colourwayId, shot: shotInHand, piece: pieceInHand } = inHand;
  const dispatch = useAppDispatch();
  const { data: measurements = [] } = useMeasurementsQuery(document.project.value.id);
  const lineup = useLineup(inHand);
  const [shown, setShown] = useState<Shown>('after');
  const [isHeld, setHeld] = useState(false);
  const [size, setSize] = useState<CellSize>(() => sizeThatFits(innerWidth, document.shots.length));
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const shots = document.shots.map((s) => s.value);
  const rows = wholeRows(document, measurements, colourwayId);
  const everyRow = rows.flatMap((row): PieceRow[] => [row, ...row.parts]);
  if (rows.length === 0) return <div className="empty">No piece yet. Add one at the Isolate stage.</div>;
  const rowInHand = everyRow.find((r) => r.piece.id === pieceInHand?.id);
  const sightedInHand = rowInHand?.sightings.find((s) => s.shot.id === shotInHand?.id);
  const tolerance = toleranceOf(rowInHand?.requirement, document.project.value.tolerance);
  const cellsShow = isHeld ? 'before' : shown;
  const choose = (id: string, isChosen: boolean) =>
    setChosen(isChosen ? [...chosen, id] : chosen.filter((other) => other !== id));
  return (
    <div className="lineup-stage">
      <LineupBar
        shown={shown}
        onShow={setShown}
        onHold={setHeld}
        size={size}
        onSize={setSize}
        lineup={lineup}
        onSolveAll={() => lineup.solveAll(everyRow)}
        onApplyAll={() => lineup.applyAll()}
      >
        <ReportMenu inHand={inHand} measurements={measurements} />
      </LineupBar>
      <div className="lineup-row">
        <Grid
          rows={rows}
          columns={shots}
          size={size}
          isEmptyRow={(row) => shots.every((_, c) => membersIn(row, c).length === 0)}
          isEmptyColumn={(c) => rows.every((row) => membersIn(row, c).length === 0)}
          columnHead={(c) => (
            <ShotHead
              shot={shots[c]!}
              inHand={inHand}
              lineup={lineup}
              isChosen={chosen.includes(shots[c]!.id)}
              onChoose={(isChosen) => choose(shots[c]!.id, isChosen)}
              isShort={isSmallest(size)}
            />
          )}
          rowHead={(row) => <PieceHead row={row} lineup={lineup} isShort={isSmallest(size)} />}
          cell={(row, c) => (
            <Cell
              row={row}
              column={c}
              shot={shots[c]!}
              inHand={inHand}
              solvedOf={(id) => lineup.solved.get(id)}
              shown={cellsShow}
              size={size}
              isInHand={shots[c] === shotInHand && [row, ...row.parts].some((each) => each === rowInHand)}
              onTake={({ piece }) => dispatch(moved({ pieceId: piece.id, shotId: shots[c]!.id, layerId: null }))}
            />
          )}
        >
          <div className="charts">
            {rowInHand && <ShotBars row={rowInHand} tolerance={tolerance} />}
            {rowInHand && <DeltaEChart row={rowInHand} tolerance={tolerance} />}
            <HueMap rows={everyRow} />
          </div>
        </Grid>
        {rowInHand && sightedInHand && (
          <CellDetails row={rowInHand} sighted={sightedInHand} inHand={inHand} lineup={lineup} chosen={chosen} />
        )}
      </div>
    </div>
  );
}
