import { Button, Input, Modal, Segmented, Select, type InputRef } from 'antd';
import { Plus } from 'lucide-react';
import { useRef, useState } from 'react';
import type { Piece } from '@mellow/contract';
import { addPiece } from '../../commands/pieces.ts';
import { edit } from '../../editing/editing.ts';
import { useAppDispatch } from '../../app/store.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { moved } from '../../view/whereSlice.ts';
import { requiredHex, linearHex } from '../../ui/colour.ts';
import { SwatchPair } from '../../ui/SwatchPair.tsx';
import { useAppSelector } from '../../app/store.ts';

/** The piece in hand, and how to name a new one. */
export function PieceBar({ inHand: { document, piece, shot, requirement } }: { inHand: InHand }) {
  const dispatch = useAppDispatch();
  const live = useAppSelector((s) => s.live);
  const [draft, setDraft] = useState<{ name: string; kind: Piece['kind']; partOf: Piece['id'] | null }>();
  const name = useRef<InputRef>(null);
  const wholes = document.pieces.map((p) => p.value).filter((p) => p.partOf === null);
  const make = () => {
    const { change, pieceId } = addPiece(document, draft!);
    edit(document.project.value.id, change);
    dispatch(moved({ pieceId, layerId: null }));
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
          onClick={() => setDraft({ name: '', kind: 'product', partOf: null })}
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
        afterOpenChange={(isOpen) => isOpen && name.current?.focus()}
      >
        <Input
          ref={name}
          aria-label="Piece name"
          maxLength={120}
          value={draft?.name}
          onChange={(e) => setDraft({ ...draft!, name: e.target.value })}
          onPressEnter={() => draft?.name.trim() && make()}
        />
        <Segmented
          style={{ marginTop: 8 }}
          options={['product', 'garment', 'vehicle', 'prop'] as Piece['kind'][]}
          value={draft?.kind ?? 'product'}
          onChange={(kind) => setDraft({ ...draft!, kind })}
        />
        {wholes.length > 0 && (
          <Select
            style={{ marginTop: 8, width: '100%' }}
            aria-label="Part of"
            value={draft?.partOf ?? ''}
            options={[
              { value: '', label: 'A piece of its own' },
              ...wholes.map(({ id, name }) => ({ value: id, label: `A part of the ${name}` })),
            ]}
            onChange={(id) => setDraft({ ...draft!, partOf: (id || null) as Piece['id'] | null })}
          />
        )}
      </Modal>
    </>
  );
}
