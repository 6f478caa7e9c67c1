import { Input, Modal, Segmented, Select, type InputRef } from 'antd';
import { useRef, useState } from 'react';
import type { Piece, PieceId } from '@mellow/contract';
import { useAppDispatch } from '../app/store.ts';
import { addColourway, renameColourway } from '../commands/colourways.ts';
import { addPiece, changePiece } from '../commands/pieces.ts';
import { documentOf, edit } from '../editing/editing.ts';
import { AskName } from '../ui/AskName.tsx';
import type { InHand } from '../inhand/inHand.ts';
import type { Dialog } from '../view/dialogSlice.ts';
import { moved } from '../view/whereSlice.ts';

interface Props {
  inHand: InHand;
  dialog: Dialog;
  onClose: () => void;
}

/** Names something new, or gives another name. */
export default function NameDialogs({ inHand: { document }, dialog, onClose }: Props) {
  const dispatch = useAppDispatch();
  const projectId = document.project.value.id;
  const now = () => documentOf(projectId) ?? document;
  if (dialog.kind === 'newPiece') return <NewPiece document={document} partOf={dialog.partOf} onClose={onClose} />;
  if (dialog.kind === 'newColourway') {
    const add = (name: string) => {
      const { change, id } = addColourway(now(), name);
      edit(projectId, change);
      dispatch(moved({ colourwayId: id }));
    };
    return <AskName title="New colourway" label="Colourway name" ok="Add" onName={add} onClose={onClose} />;
  }
  if (dialog.kind === 'renamePiece') {
    const piece = document.pieces.find((p) => p.value.id === dialog.id)?.value;
    if (!piece) return null;
    const rename = (name: string) => edit(projectId, changePiece(piece, { name }));
    return (
      <AskName title={`Rename ${piece.name}`} label="Piece name" was={piece.name} onName={rename} onClose={onClose} />
    );
  }
  if (dialog.kind === 'renameColourway') {
    const way = document.colourways.find((c) => c.value.id === dialog.id)?.value;
    if (!way) return null;
    const rename = (name: string) => edit(projectId, renameColourway(way, name));
    return (
      <AskName title={`Rename ${way.name}`} label="Colourway name" was={way.name} onName={rename} onClose={onClose} />
    );
  }
  return null;
}

interface NewPieceProps {
  document: InHand['document'];
  partOf: PieceId | null;
  onClose: () => void;
}
function NewPiece({ document, partOf, onClose }: NewPieceProps) {
  const dispatch = useAppDispatch();
  const [draft, setDraft] = useState<{ name: string; kind: Piece['kind']; partOf: PieceId | null }>({
    name: '',
    kind: document.pieces.find((p) => p.value.id === partOf)?.value.kind ?? 'product',
    partOf,
  });
  const input = useRef<InputRef>(null);
  const wholes = document.pieces.map((p) => p.value).filter((p) => p.partOf === null);
  const make = () => {
    if (!draft.name.trim()) return;
    const { change, pieceId } = addPiece(document, draft);
    edit(document.project.value.id, change);
    dispatch(moved({ pieceId, layerId: null }));
    onClose();
  };
  return (
    <Modal
      open
      title="New piece"
      okText="Add"
      okButtonProps={{ disabled: !draft.name.trim() }}
      onOk={make}
      onCancel={onClose}
      afterOpenChange={(isOpen) => isOpen && input.current?.focus()}
    >
      <Input
        ref={input}
        aria-label="Piece name"
        maxLength={120}
        value={draft.name}
        onChange={(e) => setDraft({ ...draft, name: e.target.value })}
        onPressEnter={make}
      />
      <Segmented
        style={{ marginTop: 8 }}
        options={['product', 'garment', 'vehicle', 'prop'] as Piece['kind'][]}
        value={draft.kind}
        onChange={(kind) => setDraft({ ...draft, kind })}
      />
      {wholes.length > 0 && (
        <Select
          style={{ marginTop: 8, width: '100%' }}
          aria-label="Part of"
          value={draft.partOf ?? ''}
          options={[
            { value: '', label: 'A piece of its own' },
            ...wholes.map(({ id, name }) => ({ value: id, label: `A part of the ${name}` })),
          ]}
          onChange={(id) => setDraft({ ...draft, partOf: (id || null) as PieceId | null })}
        />
      )}
    </Modal>
  );
}
