import { Input, Modal } from 'antd';
import { useRef, useState, type ComponentRef } from 'react';
import type { NewNote } from '@mellow/contract';
import type { InHand } from '../inhand/inHand.ts';
import { useAddOwnNote } from '../inhand/useAddOwnNote.ts';

interface Props {
  inHand: InHand;
  on: Pick<NewNote, 'shotId' | 'colourwayId' | 'frame' | 'spot'>;
  onClose: () => void;
}
/** A note of one's own on a frame, pinned where the hand was. */
export default function NoteDialog({ inHand: { document }, on, onClose }: Props) {
  const add = useAddOwnNote(document.project.value.id);
  const [text, setText] = useState('');
  const input = useRef<ComponentRef<typeof Input.TextArea>>(null);
  const shot = document.shots.find((s) => s.value.id === on.shotId)?.value;
  const keep = async () => {
    if (await add(on, text)) onClose();
  };
  return (
    <Modal
      open
      title={`Note on ${shot?.name ?? 'the shot'}, frame ${on.frame}`}
      okText="Add"
      okButtonProps={{ disabled: !text.trim() }}
      onOk={() => void keep()}
      onCancel={onClose}
      afterOpenChange={(isOpen) => isOpen && input.current?.focus()}
    >
      <Input.TextArea
        ref={input}
        aria-label="Note"
        rows={3}
        maxLength={2000}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
    </Modal>
  );
}
