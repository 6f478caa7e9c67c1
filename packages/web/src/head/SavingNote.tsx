import { Button, Popover } from 'antd';
import { outbox } from '../editing/editing.ts';
import type { SetAside } from '../editing/outbox.ts';
import type { Saving } from '../view/savingSlice.ts';
import { useAppSelector } from '../app/store.ts';

const TEXT: Record<Saving, string> = { saved: 'saved', saving: 'saving …', offline: 'waiting for the server' };

const MORE: Record<Saving, string> = {
  saved: 'Everything is kept by the server.',
  saving: 'The last edits are on their way.',
  offline: 'The server does not answer: edits are kept in this browser and go out when it does.',
};

/** How saving stands, and what was put aside because it could not be saved. */
export function SavingNote() {
  const { state, aside } = useAppSelector((s) => s.saving);
  return (
    <>
      {aside.length > 0 && (
        <Popover trigger="click" placement="bottomRight" title="Not saved" content={<Aside edits={aside} />}>
          <Button size="small">⚠ {aside.length} not saved</Button>
        </Popover>
      )}
      <span className="quiet saving" role="status" title={MORE[state]}>
        {TEXT[state]}
      </span>
    </>
  );
}

function Aside({ edits }: { edits: SetAside[] }) {
  return (
    <ul className="plain" style={{ maxWidth: 380, margin: 0, padding: 0, listStyle: 'none' }}>
      {edits.map(({ request, reason }) => (
        <li key={request.id} className="card">
          <strong>{request.label}</strong>
          <div className="quiet">{reason}</div>
          <div className="row" style={{ marginTop: 6 }}>
            <Button size="small" onClick={() => outbox.tryAgain(request.id)}>
              Try again
            </Button>
            <Button size="small" type="text" onClick={() => outbox.dismiss(request.id)}>
              Give it up
            </Button>
          </div>
        </li>
      ))}
    </ul>
  );
}
