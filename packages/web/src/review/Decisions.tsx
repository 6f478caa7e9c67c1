import { Button, Input } from 'antd';
import { useState } from 'react';
import type { Decision, ReviewPage, SightingId, Verdict } from '@mellow/contract';

interface Props {
  sightings: ReviewPage['shots'][number]['sightings'];
  verdictOf: (sightingId: SightingId) => Verdict | undefined;
  cannot: string | undefined;
  onDecide: (sightingId: SightingId, decision: Decision, text: string) => void;
}
/** What is decided of each piece in the shot, in the colourway that is seen. */
export function Decisions({ sightings, verdictOf, cannot, onDecide }: Props) {
  const [backing, setBacking] = useState<SightingId>();
  const [text, setText] = useState('');
  const sendBack = (id: SightingId) => {
    onDecide(id, 'sent back', text);
    setBacking(undefined);
    setText('');
  };
  return (
    <ul className="decisions">
      {sightings.map(({ id, name }) => (
        <li key={id} aria-label={name}>
          <div className="row">
            <strong className="grow">{name}</strong>
            <span>{verdictText(verdictOf(id))}</span>
          </div>
          <div className="row">
            <Button
              size="small"
              disabled={cannot !== undefined}
              title={cannot}
              onClick={() => onDecide(id, 'approved', '')}
            >
              Approve
            </Button>
            <Button size="small" disabled={cannot !== undefined} title={cannot} onClick={() => setBacking(id)}>
              Send back …
            </Button>
          </div>
          {backing === id && (
            <div className="row">
              <Input
                size="small"
                autoFocus
                aria-label={`What is to change of ${name}`}
                placeholder="What is to change"
                maxLength={2000}
                value={text}
                onChange={(e) => setText(e.target.value)}
                onPressEnter={() => sendBack(id)}
              />
              <Button size="small" type="primary" onClick={() => sendBack(id)}>
                Send back
              </Button>
            </div>
          )}
        </li>
      ))}
    </ul>
  );
}

function verdictText(verdict: Verdict | undefined): string {
  if (!verdict) return '○ not decided';
  return `${verdict.decision === 'approved' ? '✓ approved' : '↩ sent back'} by ${verdict.who}`;
}
