import { Button, Input, Modal, Select } from 'antd';
import { useState } from 'react';
import type { NewReview } from '@mellow/contract';
import { useNotices } from '../../app/Notices.tsx';
import { problemText } from '../../data/requests.ts';
import { useSendReviewMutation } from '../../data/reviews.ts';

type Asked = Pick<NewReview, 'shotIds' | 'colourwayIds' | 'withLook'> & { projectId: string };
const DAYS = [3, 7, 14, 30, 90].map((value) => ({ value, label: `${value} days` }));

/** Makes a page of the chosen shots that a client can be given. */
export function SendReview(asked: Asked) {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <Button
        disabled={asked.shotIds.length === 0 || asked.colourwayIds.length === 0}
        title="Films of the chosen shots behind a link: to look at, to note on, to approve or send back"
        onClick={() => setOpen(true)}
      >
        Send for review …
      </Button>
      {isOpen && <Ask {...asked} onClose={() => setOpen(false)} />}
    </>
  );
}

function Ask({ onClose, ...asked }: Asked & { onClose: () => void }) {
  const [send, { isLoading }] = useSendReviewMutation();
  const { message } = useNotices();
  const [name, setName] = useState(() => `Review of ${new Date().toLocaleDateString()}`);
  const [daysValid, setDays] = useState(14);
  const go = async () => {
    const { error } = await send({ ...asked, name, daysValid });
    if (error) void message.error(problemText(error), 8);
    else onClose();
  };
  return (
    <Modal
      open
      title="Send for review"
      okText="Send"
      confirmLoading={isLoading}
      okButtonProps={{ disabled: !name.trim() }}
      onOk={() => void go()}
      onCancel={onClose}
    >
      <p>
        The shots are rendered as they are now, as filmed and in each chosen colourway. Whoever has the link can look,
        write notes, approve and send back; nothing else.
      </p>
      <div className="row">
        <Input
          className="grow"
          aria-label="Name of the review"
          maxLength={120}
          value={name}
          onChange={(e) => setName(e.target.value)}
          onPressEnter={() => name.trim() && void go()}
        />
        <span>good for</span>
        <Select aria-label="Good for" options={DAYS} value={daysValid} onChange={setDays} />
      </div>
    </Modal>
  );
}
