import { Button, Segmented, Select } from 'antd';
import { Trash2 } from 'lucide-react';
import type { Layer, ScribbleLayer, Stroke, Track } from '@mellow/contract';
import { taughtFrames } from '@mellow/core';
import { ALL_MOTION } from '../../commands/tracks.ts';
import { NumberField } from '../../ui/NumberField.tsx';
import { ScribbleTools } from './ScribbleTools.tsx';
import type { Strokes } from './useStrokes.ts';

const SILENT =
  'What it was drawn on does not lie under it on this frame: something is in front of it, or the piece has moved away.';

interface Props {
  layer: ScribbleLayer;
  frame: number;
  strokes: Strokes;
  tracks: readonly Track[];
  onDrag: (next: Layer) => void;
  onSave: (label: string, next: Layer) => void;
  onGo: (frame: number) => void;
}

/**
 * A scribble: how soft its outline is, and its strokes, of which one may be chosen and changed. Of one that is carried,
 * those of the frame in hand, and where there are others.
 */
export function ScribbleEditor({ layer, frame, strokes, tracks, onDrag, onSave, onGo }: Props) {
  const elsewhere = layer.carried ? taughtFrames(layer.strokes).filter((f) => f !== frame) : [];
  const { here, chosen } = strokes;
  const nth = ({ sign }: Stroke, at: number) =>
    `Stroke ${sign} ${here.filter((s) => s.at <= at && s.stroke.sign === sign).length}`;
  return (
    <section aria-label="Strokes">
      <ScribbleTools />
      <SoftEdge layer={layer} onDrag={onDrag} onSave={onSave} />
      {here.map(({ at, stroke, holds }) => (
        <div className="row" key={at}>
          <Button
            size="small"
            type={at === chosen?.at ? 'primary' : 'text'}
            aria-pressed={at === chosen?.at}
            onClick={() => strokes.choose(at === chosen?.at ? undefined : at)}
          >
            {nth(stroke, at)}
          </Button>
          <span className="grow">
            {holds && (
              <span className="quiet" title={SILENT}>
                {holds.length === 0 ? 'does not count here' : 'counts in part'}
              </span>
            )}
          </span>
          <Button
            size="small"
            type="text"
            icon={<Trash2 size={14} />}
            aria-label={`Remove ${nth(stroke, at).toLowerCase()}`}
            onClick={() => strokes.changed(at, undefined, 'done', 'Remove a stroke')}
          />
        </div>
      ))}
      {chosen && <ChosenStroke layer={layer} strokes={strokes} tracks={tracks} name={nth(chosen.stroke, chosen.at)} />}
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

const EDGES = ['as the picture', 'hard', 'by hand'] as const;
/** Where “by hand” begins, full-resolution pixels. */
const BY_HAND = 4;
const WIDTHS = { 'as the picture': undefined, hard: 0, 'by hand': BY_HAND } as const;

function SoftEdge({ layer, onDrag, onSave }: Pick<Props, 'layer' | 'onDrag' | 'onSave'>) {
  const { softPx, ...rest } = layer;
  const save = (next: number | undefined) =>
    onSave(`Soft edge of ${layer.name}`, next === undefined ? rest : { ...rest, softPx: next });
  const now = EDGES.find((edge) => WIDTHS[edge] === softPx) ?? 'by hand';
  return (
    <>
      <div className="row">
        <span className="grow">Edge</span>
        <Segmented
          size="small"
          aria-label="How soft the edge is"
          options={[...EDGES]}
          value={now}
          onChange={(edge) => save(WIDTHS[edge])}
        />
      </div>
      {softPx !== undefined && softPx > 0 && (
        <div className="numbers">
          <NumberField
            label="Soft edge"
            value={softPx}
            unit="px"
            min={0.5}
            max={200}
            step={0.5}
            digits={1}
            neutral={BY_HAND}
            useful={[0, 40]}
            onDrag={(v) => onDrag({ ...layer, softPx: v })}
            onCommit={save}
          />
        </div>
      )}
    </>
  );
}

const AS_LAYER = 'as layer';
const STANDS = 'stands';

/** The width of the chosen stroke, how far it grows, and what it rides on. */
function ChosenStroke({
  layer,
  strokes,
  tracks,
  name,
}: Pick<Props, 'layer' | 'strokes' | 'tracks'> & { name: string }) {
  const chosen = strokes.chosen!;
  const { at, stroke } = chosen;
  const set = (phase: 'drag' | 'done', change: Partial<Stroke>, what = '') =>
    strokes.changed(at, { ...stroke, ...change }, phase, what);
  const followed = stroke.follow === null ? STANDS : (stroke.follow?.trackId ?? AS_LAYER);
  const follow = (to: string) => {
    if (to === AS_LAYER || to === STANDS) return strokes.follow(chosen, to === STANDS ? null : undefined);
    const trackId = tracks.find((t) => t.id === to)!.id;
    strokes.follow(chosen, { ...ALL_MOTION, trackId });
  };
  return (
    <>
      <div className="numbers">
        {stroke.sign !== 'around' && (
          <NumberField
            label="Width"
            name={`Width of ${name.toLowerCase()}`}
            value={stroke.widthPx}
            unit="px"
            min={0.5}
            max={2000}
            step={0.5}
            digits={1}
            neutral={8}
            useful={[1, 80]}
            onDrag={(widthPx) => set('drag', { widthPx })}
            onCommit={(widthPx) => set('done', { widthPx }, 'Width of a stroke')}
          />
        )}
        {stroke.reach !== undefined && (
          <NumberField
            label="Reach"
            name={`Reach of ${name.toLowerCase()}`}
            value={stroke.reach * 100}
            unit="%"
            min={0.5}
            max={150}
            step={0.5}
            digits={1}
            neutral={10}
            useful={[0, 50]}
            onDrag={(v) => set('drag', { reach: v / 100 })}
            onCommit={(v) => set('done', { reach: v / 100 }, 'Grow what a click selects')}
          />
        )}
      </div>
      {!layer.carried && (
        <div className="row">
          <span className="grow">Rides on</span>
          <Select
            size="small"
            aria-label={`${name} rides on`}
            style={{ minWidth: 150 }}
            value={followed}
            options={[
              { value: AS_LAYER, label: `what ${layer.name} follows` },
              { value: STANDS, label: 'nothing: it stands' },
              ...tracks.map((t) => ({ value: t.id, label: t.name })),
            ]}
            onChange={follow}
          />
        </div>
      )}
      <div className="quiet">Drag it with Adjust shape, nudge it with the arrows, Delete takes it away.</div>
    </>
  );
}
