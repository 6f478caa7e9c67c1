import Overflow from '@rc-component/overflow';
import { Button, Dropdown, Tooltip } from 'antd';
import { Plus } from 'lucide-react';
import type { Piece } from '@mellow/contract';
import { useAppDispatch } from '../app/store.ts';
import { useMeasurementsQuery } from '../data/api.ts';
import type { InHand } from '../inhand/inHand.ts';
import { pieceLook, type PieceLook, type PieceState } from '../inhand/pieceStates.ts';
import { COMMAND_IDS, type CommandId } from '../keys/keyTable.ts';
import { KeyTip } from '../keys/KeyTip.tsx';
import { useCommands, type Commands } from '../keys/useCommands.ts';
import { GLYPH } from '../ui/colour.ts';
import { SwatchPair } from '../ui/SwatchPair.tsx';
import { dialogOpened } from '../view/dialogSlice.ts';
import { moved } from '../view/whereSlice.ts';
import { usePieceMenu } from './usePieceMenu.ts';

/** Pieces in their order, each followed by its parts. */
const withParts = (pieces: readonly Piece[]): Piece[] =>
  pieces
    .filter((p) => !pieces.some((whole) => whole.id === p.partOf))
    .flatMap((whole) => [whole, ...pieces.filter((p) => p.partOf === whole.id)]);

const MARK: Record<PieceState, string> = { ...GLYPH, none: '–', waiting: '…', free: '○' };
const inWords = ({ state, shots, matching }: PieceLook): string =>
  ({
    none: 'isolated in no shot yet',
    waiting: 'being measured',
    free: 'nothing is required of it in this colourway',
    matches: shots === 1 ? 'matches in its shot' : `matches in all ${shots} shots`,
    close: `close; matches in ${matching} of ${shots} shots`,
    off: `off; matches in ${matching} of ${shots} shots`,
  })[state];
const TAKES = COMMAND_IDS.filter((id) => /^piece\d$/.test(id));

/** The pieces side by side: swatch pair, name and worst state; those there is no room for in a menu. */
export function PieceChips({ inHand }: { inHand: InHand }) {
  const { document, piece, colourwayId } = inHand;
  const dispatch = useAppDispatch();
  const { data: measurements = [] } = useMeasurementsQuery(document.project.value.id);
  const menuOf = usePieceMenu(inHand);
  const pieces = withParts(document.pieces.map((p) => p.value));
  const take = (id: Piece['id']) => dispatch(moved({ pieceId: id, layerId: null }));
  const open = () => dispatch(dialogOpened({ kind: 'newPiece', partOf: null }));
  const commands: Commands = { newPiece: { run: open } };
  pieces.slice(0, TAKES.length).forEach(({ id, name }, i) => {
    commands[TAKES[i] as CommandId] = { run: () => take(id), name: `Take ${name}`, isOn: id === piece?.id };
  });
  if (piece) {
    commands.renamePiece = { run: () => menuOf(piece).onClick({ key: 'rename' }), name: `Rename ${piece.name}` };
    commands.removePiece = { run: () => menuOf(piece).onClick({ key: 'remove' }), name: `Remove ${piece.name}` };
  }
  useCommands(commands);
  const looks = new Map(pieces.map((p) => [p.id, pieceLook(document, measurements, colourwayId, p.id)]));
  const rest = (left: readonly (Piece | null)[]) => {
    const hidden = left.filter((p) => p !== null);
    // its place is kept while there is nothing to put in it
    if (left.length === 0) return <span className="chip rest">+</span>;
    const own = hidden.find((p) => p.id === piece?.id);
    return (
      <Dropdown
        trigger={['click']}
        menu={{
          selectable: true,
          selectedKeys: own ? [own.id] : [],
          items: [
            ...hidden.map((p) => ({ key: p.id, label: <ChipFace piece={p} look={looks.get(p.id)!} /> })),
            { key: 'new', label: 'New piece …' },
          ],
          onClick: ({ key }) => (key === 'new' ? open() : take(key as Piece['id'])),
        }}
      >
        <button type="button" className={`chip rest ${own ? 'chosen' : ''}`} aria-label="More pieces">
          {own ? <ChipFace piece={own} look={looks.get(own.id)!} /> : `+${hidden.length || ''}`}
        </button>
      </Dropdown>
    );
  };
  const chip = (p: Piece, index: number) => (
    <Dropdown trigger={['contextMenu']} menu={menuOf(p)}>
      <label htmlFor={`piece ${p.id}`} className={`chip ${p.id === piece?.id ? 'chosen' : ''}`}>
        <ChipInput piece={p} look={looks.get(p.id)!} at={index} isOn={p.id === piece?.id} onTake={take} />
        <ChipFace piece={p} look={looks.get(p.id)!} />
      </label>
    </Dropdown>
  );
  // the last place is that of adding one; where it has no room it stands in the menu
  return (
    <Overflow
      className="pieces"
      role="radiogroup"
      aria-label="Piece"
      data={[...pieces, null]}
      itemKey={(p) => p?.id ?? 'new'}
      maxCount="responsive"
      renderItem={(p, { index }) => (p ? chip(p, index) : <AddPiece onAdd={open} />)}
      renderRest={rest}
    />
  );
}

function AddPiece({ onAdd }: { onAdd: () => void }) {
  return (
    <KeyTip id="newPiece" title="New piece">
      <Button size="small" type="text" aria-label="New piece" onClick={onAdd}>
        <Plus size={14} />
      </Button>
    </KeyTip>
  );
}

interface ChipInputProps {
  piece: Piece;
  look: PieceLook;
  at: number;
  isOn: boolean;
  onTake: (id: Piece['id']) => void;
}
function ChipInput({ piece, look, at, isOn, onTake }: ChipInputProps) {
  const command = TAKES[at];
  const input = (
    <input
      id={`piece ${piece.id}`}
      type="radio"
      name="piece"
      checked={isOn}
      aria-label={`${piece.name}: ${inWords(look)}`}
      onChange={() => onTake(piece.id)}
    />
  );
  const says = `${piece.name}, ${piece.kind}: ${inWords(look)}`;
  return command ? (
    <KeyTip id={command} title={says}>
      {input}
    </KeyTip>
  ) : (
    <Tooltip title={says}>{input}</Tooltip>
  );
}

function ChipFace({ piece, look }: { piece: Piece; look: PieceLook }) {
  return (
    <span className="chip-face">
      <SwatchPair from={look.from} to={look.to} />
      <span className="shorten">
        {piece.partOf !== null && '· '}
        {piece.name}
      </span>
      <span className="mono" aria-hidden>
        {MARK[look.state]}
      </span>
    </span>
  );
}
