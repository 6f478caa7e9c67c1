import { Segmented } from 'antd';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { toolChosen, type ToolName } from '../../view/handSlice.ts';

const WAYS: { value: ToolName; label: string; says: string }[] = [
  { value: 'scribble-in', label: 'in', says: 'Draw over parts of the piece.' },
  { value: 'scribble-out', label: 'out', says: 'Draw over what lies beside it.' },
  { value: 'scribble-around', label: 'round', says: 'Draw loosely round it; Shift for a box.' },
  {
    value: 'scribble-grow',
    label: 'click',
    says: 'Click in its middle; the wheel takes more or less, Escape lets it zoom.',
  },
  {
    value: 'scribble-unsure',
    label: 'unsure',
    says: 'Draw over hair, smoke, glass: the picture tells how much is in.',
  },
];

/** What the next stroke of a scribble says. */
export function ScribbleTools() {
  const dispatch = useAppDispatch();
  const tool = useAppSelector((s) => s.hand.tool);
  const chosen = WAYS.find((w) => w.value === tool);
  return (
    <>
      <div className="row" style={{ margin: '6px 0' }}>
        <Segmented
          size="small"
          aria-label="The next stroke says"
          options={WAYS}
          value={tool}
          onChange={(next) => dispatch(toolChosen(next))}
        />
      </div>
      <div className="quiet">
        {chosen?.says ?? 'Choose what to draw.'} Only what a stroke in reaches is kept; wires and twigs in front are
        left out.
      </div>
    </>
  );
}
