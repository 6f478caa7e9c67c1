import { Button } from 'antd';
import { Signature, Trash2 } from 'lucide-react';
import type { Layer, ScribbleLayer, Stroke } from '@mellow/contract';
import { useAppDispatch } from '../../app/store.ts';
import { toolChosen } from '../../view/handSlice.ts';

/** The strokes of a scribble: drawing more of them, taking some away. */
export function ScribbleEditor({
  layer,
  onSave,
}: {
  layer: ScribbleLayer;
  onSave: (label: string, next: Layer) => void;
}) {
  const dispatch = useAppDispatch();
  const { strokes } = layer;
  const keep = (label: string, kept: Stroke[]) => onSave(label, { ...layer, strokes: kept });
  const nth = (stroke: Stroke, at: number) =>
    `Stroke ${stroke.sign} ${strokes.slice(0, at + 1).filter((s) => s.sign === stroke.sign).length}` +
    (layer.carried && stroke.frame !== undefined ? `, frame ${stroke.frame}` : '');
  return (
    <section aria-label="Strokes">
      <div className="row" style={{ margin: '6px 0' }}>
        <Button size="small" icon={<Signature size={14} />} onClick={() => dispatch(toolChosen('scribble-in'))}>
          Scribble in
        </Button>
        <Button size="small" icon={<Signature size={14} />} onClick={() => dispatch(toolChosen('scribble-out'))}>
          Scribble out
        </Button>
      </div>
      <div className="quiet">
        Draw over parts of the piece, and over what lies beside it. Only what a stroke in reaches is kept: behind
        something thin, draw on both sides.
      </div>
      {strokes.map((stroke, i) => (
        <div className="row" key={i}>
          <span className="grow">{nth(stroke, i)}</span>
          <Button
            size="small"
            type="text"
            icon={<Trash2 size={14} />}
            aria-label={`Remove ${nth(stroke, i).toLowerCase()}`}
            onClick={() =>
              keep(
                `Remove a stroke of ${layer.name}`,
                strokes.filter((_, k) => k !== i),
              )
            }
          />
        </div>
      ))}
    </section>
  );
}
