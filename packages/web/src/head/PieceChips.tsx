import { Button, Dropdown, Tooltip } from 'antd';
import { ChevronDown, Plus } from 'lucide-react';
import { useEffect, useRef } from 'react';
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

/** As many are seen side by side in a narrow window; of more there is a menu too. */
const NEEDS_MENU = 4;

/**
 * The pieces side by side: swatch pair, name and worst state. They scroll where there is no room for all, and the one
 * in hand is always in view; nothing is measured, so that what is seen never depends on what came first.
 */
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
  const chipsRef = useRef<HTMLDivElement>(null);
  useEffect(() => {
    void chipsRef.current?.querySelector('.chosen')?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [piece?.id]);
  return (
    <div className="pieces">
      <div ref={chipsRef} className="piece-chips" role="radiogroup" aria-label="Piece">
        {pieces.map((p, index) => (
          <Dropdown key={p.id} trigger={['contextMenu']} menu={menuOf(p)}>
            <label htmlFor={`piece ${p.id}`} className={`chip ${p.id === piece?.id ? 'chosen' : ''}`}>
              <ChipInput piece={p} look={looks.get(p.id)!} at={index} isOn={p.id === piece?.id} onTake={take} />
              <ChipFace piece={p} look={looks.get(p.id)!} />
            </label>
          </Dropdown>
        ))}
      </div>
      {pieces.length > NEEDS_MENU && (
        <Dropdown
          trigger={['click']}
          menu={{
            selectable: true,
            selectedKeys: piece ? [piece.id] : [],
            items: pieces.map((p) => ({ key: p.id, label: <ChipFace piece={p} look={looks.get(p.id)!} /> })),
            onClick: ({ key }) => take(key as Piece['id']),
          }}
        >
          <Button size="small" type="text" aria-label="All pieces" icon={<ChevronDown size={14} />} />
        </Dropdown>
      )}
      <KeyTip id="newPiece" title="New piece">
        <Button size="small" type="text" aria-label="New piece" icon={<Plus size={14} />} onClick={open} />
      </KeyTip>
    </div>
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
