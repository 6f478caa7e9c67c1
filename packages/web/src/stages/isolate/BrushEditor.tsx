import { Button } from 'antd';
import { Trash2 } from 'lucide-react';
import type { BrushLayer, BrushStroke } from '@mellow/contract';
import type { InHand } from '../../inhand/inHand.ts';
import { BrushSettings } from './BrushSettings.tsx';
import type { Stack } from './useStack.ts';

/** So many strokes are listed, the last first: undo is for the rest. */
const LISTED = 12;

function when({ span }: BrushStroke): string {
  if (!span) return 'all frames';
  return span.from === span.to ? `frame ${span.from}` : `frames ${span.from}–${span.to}`;
}

/** The strokes of a painted layer: painting more of them, taking some away. */
export function BrushEditor({ layer, stack, inHand }: { layer: BrushLayer; stack: Stack; inHand: InHand }) {
  const { strokes } = layer;
  const keep = (label: string, kept: BrushStroke[]) => stack.putLayer(label, { ...layer, strokes: kept });
  const last = strokes.map((stroke, at) => ({ stroke, at })).slice(-LISTED);
  return (
    <section aria-label="Painted">
      <BrushSettings inHand={inHand} />
      {last.toReversed().map(({ stroke, at }) => (
        <div className="row" key={at}>
          <span className="grow">
            {at + 1} {stroke.sign}, {stroke.widthPx.toFixed(0)} px <span className="quiet">{when(stroke)}</span>
          </span>
          <Button
            size="small"
            type="text"
            icon={<Trash2 size={14} />}
            aria-label={`Remove stroke ${at + 1}`}
            onClick={() =>
              keep(
                `Remove a stroke of ${layer.name}`,
                strokes.filter((_, k) => k !== at),
              )
            }
          />
        </div>
      ))}
      {strokes.length > LISTED && <div className="quiet">and {strokes.length - LISTED} before them</div>}
    </section>
  );
}
