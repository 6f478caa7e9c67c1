import { Button, Input } from 'antd';
import { useState } from 'react';

interface Props {
  frameText: string;
  isMarked: boolean;
  /** Why nothing can be sent; undefined: it can. */
  cannot: string | undefined;
  onClear: () => void;
  /** True when it is kept. */
  onSend: (text: string) => Promise<boolean>;
}
/** A note on the frame in hand. */
export function WriteNote({ frameText, isMarked, cannot, onClear, onSend }: Props) {
  const [text, setText] = useState('');
  const [isSending, setSending] = useState(false);
  const send = async () => {
    setSending(true);
    if (await onSend(text)) setText('');
    setSending(false);
  };
  return (
    <section aria-label="Write a note">
      <h2>Note on {frameText}</h2>
      <Input.TextArea
        aria-label="Note"
        rows={3}
        maxLength={2000}
        placeholder="Click in the picture to pin it, drag to draw."
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <div className="row">
        <Button
          type="primary"
          size="small"
          loading={isSending}
          disabled={cannot !== undefined || text.trim() === ''}
          title={cannot}
          onClick={() => void send()}
        >
          Add the note
        </Button>
        {isMarked && (
          <Button size="small" onClick={onClear}>
            Take the marks away
          </Button>
        )}
      </div>
    </section>
  );
}
