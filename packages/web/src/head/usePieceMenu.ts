import type { MenuProps } from 'antd';
import type { Piece } from '@mellow/contract';
import { useAppDispatch } from '../app/store.ts';
import { duplicatePiece, changePiece, removePiece } from '../commands/pieces.ts';
import { documentOf, edit } from '../editing/editing.ts';
import type { InHand } from '../inhand/inHand.ts';
import { dialogOpened } from '../view/dialogSlice.ts';
import { moved } from '../view/whereSlice.ts';

const KINDS: readonly Piece['kind'][] = ['product', 'garment', 'vehicle', 'prop'];

interface PieceMenu {
  items: NonNullable<MenuProps['items']>;
  onClick: (chosen: { key: string }) => void;
}
/** What can be done with a piece as a whole. */
export function usePieceMenu({ document }: InHand): (piece: Piece) => PieceMenu {
  const dispatch = useAppDispatch();
  const projectId = document.project.value.id;
  return (piece) => {
    const acts: Record<string, () => void> = {
      rename: () => void dispatch(dialogOpened({ kind: 'renamePiece', id: piece.id })),
      part: () => void dispatch(dialogOpened({ kind: 'newPiece', partOf: piece.id })),
      duplicate() {
        const { change, pieceId } = duplicatePiece(documentOf(projectId) ?? document, piece);
        edit(projectId, change);
        dispatch(moved({ pieceId, layerId: null }));
      },
      remove: () => edit(projectId, removePiece(piece)),
    };
    for (const kind of KINDS) acts[kind] = () => edit(projectId, changePiece(piece, { kind }));
    return {
      items: [
        { key: 'rename', label: `Rename ${piece.name} …` },
        { key: 'kind', label: 'It is a', children: KINDS.map((kind) => ({ key: kind, label: kind })) },
        { key: 'part', label: 'New part of it …', disabled: piece.partOf !== null },
        { key: 'duplicate', label: 'Duplicate with its mattes and recipes' },
        { key: 'remove', label: 'Remove with its mattes and recipes' },
      ],
      onClick: ({ key }) => acts[key]?.(),
    };
  };
}
