import type { Piece } from '@mellow/contract';
import { Select } from 'antd';
import { Link, NavLink } from 'react-router';
import type { InHand } from '../inhand/inHand.ts';
import { useMeasurementsQuery } from '../data/api.ts';
import { measuredOf, meanHex, requiredHex } from '../ui/colour.ts';
import { SwatchPair } from '../ui/SwatchPair.tsx';
import { moved } from '../view/whereSlice.ts';
import { ColourwayMenu } from './ColourwayMenu.tsx';
import { HistoryButtons } from './HistoryButtons.tsx';
import { RoomMenu } from './RoomMenu.tsx';
import { SavingNote } from './SavingNote.tsx';
import { STAGES } from './stages.ts';
import { useAppDispatch } from './store.ts';

/** What is in hand, the stages, how saving stands and the history. */
export function TopBar({ inHand }: { inHand: InHand }) {
  const { document, colourwayId } = inHand;
  const { id: projectId, name } = document.project.value;
  const dispatch = useAppDispatch();
  return (
    <header className="topbar">
      <Link to="/" aria-label="All projects">
        <SwatchPair from="#8a8a8a" to="#d8d8d8" size={24} />
      </Link>
      <strong>{name}</strong>
      {document.pieces.length > 0 && <PieceSelect inHand={inHand} />}
      <Select
        aria-label="Colourway"
        size="small"
        style={{ width: 110 }}
        value={colourwayId}
        options={document.colourways.map((c) => ({ value: c.value.id, label: c.value.name }))}
        onChange={(id) => dispatch(moved({ colourwayId: id }))}
      />
      <ColourwayMenu inHand={inHand} />
      <span className="spring" />
      <nav className="stages" aria-label="Stages">
        {Object.entries(STAGES).map(([key, label]) => (
          <NavLink key={key} to={`/projects/${projectId}/${key}`}>
            {label}
          </NavLink>
        ))}
      </nav>
      <span className="spring" />
      <SavingNote />
      <HistoryButtons projectId={projectId} history={document.history} />
      <RoomMenu />
    </header>
  );
}

/** Pieces in their order, each followed by its parts. */
const withParts = (pieces: readonly Piece[]): Piece[] =>
  pieces
    .filter((p) => !pieces.some((whole) => whole.id === p.partOf))
    .flatMap((whole) => [whole, ...pieces.filter((p) => p.partOf === whole.id)]);

/** The pieces with their colours, from as measured to as required. */
function PieceSelect({ inHand: { document, piece, colourwayId } }: { inHand: InHand }) {
  const dispatch = useAppDispatch();
  const { data: measurements = [] } = useMeasurementsQuery(document.project.value.id);
  const swatch = (pieceId: string) => {
    const measured = document.sightings
      .filter((s) => s.value.pieceId === pieceId)
      .map((s) => measuredOf(measurements, s.value.id, colourwayId))
      .find((m) => m !== undefined);
    const requirement = document.requirements.find(
      (r) => r.value.pieceId === pieceId && r.value.colourwayId === colourwayId,
    )?.value;
    return <SwatchPair from={meanHex(measured?.frames.map((f) => f.before) ?? [])} to={requiredHex(requirement)} />;
  };
  const options = withParts(document.pieces.map((p) => p.value)).map((p) => ({
    value: p.id,
    label: (
      <span className="row" style={p.partOf ? { paddingLeft: 12 } : {}}>
        {swatch(p.id)}
        {p.name}
      </span>
    ),
  }));
  return (
    <Select
      aria-label="Piece"
      size="small"
      style={{ width: 170 }}
      value={piece?.id}
      options={options}
      onChange={(id) => dispatch(moved({ pieceId: id, layerId: null }))}
    />
  );
}
