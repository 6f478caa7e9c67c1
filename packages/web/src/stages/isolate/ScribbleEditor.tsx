import { Button } from 'antd';
import { Signature, Trash2 } from 'lucide-react';
import type { Layer, ScribbleLayer, Stroke } from '@mellow/contract';
import { taughtFrames } from '@mellow/core';
import { useAppDispatch } from '../../app/store.ts';
import { toolChosen } from '../../view/handSlice.ts';

/**
 * The strokes of a scribble: drawing more of them, taking some away. Of one that is carried, those of the frame in
 * hand, and where there are others.
 */
export function ScribbleEditor({
  layer,
  frame,
  onSave,
  onGo,
}: {
  layer: ScribbleLayer;
  frame: number;
  onSave: (label: string, next: Layer) => void;
  onGo: (frame: number) => void;
}) {
  const dispatch = useAppDispatch();
  const { strokes } = layer;
  const isHere = (stroke: Stroke) => !layer.carried || stroke.frame === frame;
  const elsewhere = layer.carried ? taughtFrames(strokes).filter((f) => f !== frame) : [];
  const keep = (label: string, kept: Stroke[]) => onSave(label, { ...layer, strokes: kept });
  const nth = (stroke: Stroke, at: number) =>
    `Stroke ${stroke.sign} ${strokes.slice(0, at + 1).filter((s) => s.sign === stroke.sign && isHere(s)).length}`;
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
      {strokes.map((stroke, i) =>
        isHere(stroke) ? (
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
        ) : null,
      )}
      {elsewhere.length > 0 && (
        <div className="row">
          <span className="quiet">Strokes on</span>
          {elsewhere.map((f) => (
            <Button
              key={f}
              size="small"
              type="text"
              aria-label={`Go to the strokes on frame ${f}`}
              onClick={() => onGo(f)}
            >
              {f}
            </Button>
          ))}
        </div>
      )}
    </section>
  );
}
