import { Button, Input, Modal, Segmented } from 'antd';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { Piece, PieceId } from '@mellow/contract';
import { edit } from '../../app/editing.ts';
import { useAppDispatch } from '../../app/store.ts';
import type { InHand } from '../../app/useProject.ts';
import { placeChanged } from '../../app/viewSlice.ts';
import { requiredHex, SwatchPair, linearHex } from '../../ui/colour.tsx';
import { useAppSelector } from '../../app/store.ts';

/** The piece in hand, and how to name a new one. */
export function PieceBar({ inHand: { document, piece, shot, requirement } }: { inHand: InHand }) {
  const dispatch = useAppDispatch();
  const live = useAppSelector((s) => s.view.live);
  const [draft, setDraft] = useState<{ name: string; kind: Piece['kind'] }>();
  const make = () => {
    const id = crypto.randomUUID() as PieceId;
    const projectId = document.project.value.id;
    edit(projectId, `Add the ${draft!.kind} ${draft!.name.trim()}`, [
      {
        kind: 'piece',
        id,
        value: { id, projectId, name: draft!.name.trim(), kind: draft!.kind, position: document.pieces.length },
      },
    ]);
    dispatch(placeChanged({ pieceId: id, layerId: null }));
    setDraft(undefined);
  };
  return (
    <>
      <h2>
        {piece ? (
          <>
            <SwatchPair
              from={live ? linearHex(live.before.meanLinear) : null}
              to={requiredHex(requirement)}
              size={26}
            />
            {piece.name}
            <span className="quiet">
              {piece.kind}
              {shot ? ` in ${shot.name}` : ''}
            </span>
          </>
        ) : (
          'No piece yet'
        )}
        <span style={{ flex: 1 }} />
        <Button
          size="small"
          type="text"
          icon={<Plus size={14} />}
          onClick={() => setDraft({ name: '', kind: 'product' })}
        >
          Piece
        </Button>
      </h2>
      {!piece && (
        <div className="empty">
          A piece is the thing that must change its colour: a product, a garment, a vehicle or a prop. Add one to begin.
        </div>
      )}
      <Modal
        title="New piece"
        open={draft !== undefined}
        okText="Add"
        okButtonProps={{ disabled: !draft?.name.trim() }}
        onOk={make}
        onCancel={() => setDraft(undefined)}
      >
        <Input
          autoFocus
          aria-label="Piece name"
          maxLength={120}
          value={draft?.name}
          onChange={(e) => setDraft({ ...draft!, name: e.target.value })}
        />
        <Segmented
          style={{ marginTop: 8 }}
          options={['product', 'garment', 'vehicle', 'prop'] as Piece['kind'][]}
          value={draft?.kind ?? 'product'}
          onChange={(kind) => setDraft({ ...draft!, kind })}
        />
      </Modal>
    </>
  );
}
