import { Button, Segmented, Select } from 'antd';
import type { Follow, Spill } from '@mellow/contract';
import { carriedBack, carriedThere, NO_SPILL, placeOf, type Motions } from '@mellow/core';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { toolChosen, drawingFor } from '../../view/handSlice.ts';
import { NumberRows, type NumberRow } from '../../ui/NumberRows.tsx';
import { ALL_MOTION } from '../../commands/tracks.ts';
import type { Tracks } from './useTracks.ts';

interface Props {
  value: Spill | null | undefined;
  onDrag: (next: Spill) => void;
  onSave: (label: string, next: Spill) => void;
  tracks: Tracks;
  motions: Motions;
  frame: number;
}
/** The old colour's bounce and fringe outside the matte: leave it, carry the recolour there, or take it out. */
const ROWS: NumberRow<'reachPx' | 'amount' | 'tolerance'>[] = [
  { key: 'reachPx', label: 'Reach', unit: 'px', min: 0, max: 1000, step: 1, digits: 0 },
  { key: 'amount', label: 'Amount', unit: '%', min: 0, max: 100, step: 1, digits: 0, scale: 100 },
  { key: 'tolerance', label: 'Tolerance', unit: '', min: 0.001, max: 0.4, step: 0.001, digits: 3 },
];
const DOES: Record<Spill['mode'], string> = {
  off: 'Bounce on the floor and a fringe at the edge stay as they are.',
  follow: 'What carries the old colour takes on the new one, in proportion.',
  remove: 'What carries the old colour goes back to the colour of its surroundings.',
};

export function SpillNumbers({ value, onDrag, onSave, tracks, motions, frame }: Props) {
  const now: Spill = value ?? NO_SPILL;
  return (
    <section aria-label="Spill">
      <h2 style={{ marginBottom: 8 }}>
        Spill <span className="quiet">the old colour round the piece</span>
      </h2>
      <Segmented
        aria-label="Spill"
        block
        options={['off', 'follow', 'remove'] as Spill['mode'][]}
        value={now.mode}
        onChange={(mode) => onSave(`Spill: ${mode}`, { ...now, mode })}
      />
      <div className="quiet" style={{ margin: '6px 0' }}>
        {DOES[now.mode]} {now.mode !== 'off' && 'Tint shows in yellow-green what is taken; Difference what it does.'}
      </div>
      {now.mode !== 'off' && (
        <div className="numbers">
          <NumberRows
            rows={ROWS}
            values={now}
            neutral={NO_SPILL}
            of="spill"
            nameOf={(label) => `Spill ${label.toLowerCase()}`}
            onDrag={(key, v) => onDrag({ ...now, [key]: v })}
            onCommit={(key, v, name) => onSave(name, { ...now, [key]: v })}
          />
        </div>
      )}
      {now.mode !== 'off' && <Where value={now} onSave={onSave} tracks={tracks} motions={motions} frame={frame} />}
    </section>
  );
}

/** Where spill is looked for: everywhere near the matte, or within a drawn part that may follow a track. */
function Where({ value, onSave, tracks, motions, frame }: Omit<Props, 'onDrag' | 'value'> & { value: Spill }) {
  const dispatch = useAppDispatch();
  const drawing = useAppSelector((s) => s.hand.drawFor) === 'spill';
  const { within } = value;
  /** The part stays where it is on this frame, whatever it follows from now on. */
  const follow = (label: string, next: Follow | undefined) => {
    const there = carriedThere(within!.geometry, placeOf({ follow: within!.follow }, frame, motions), true);
    const geometry = carriedBack(there, placeOf({ follow: next }, frame, motions));
    onSave(label, { ...value, within: { ...within!, geometry, follow: next } });
  };
  if (!within)
    return (
      <div className="row" style={{ marginTop: 6 }}>
        <span className="quiet grow">{drawing ? 'Draw the part in the picture.' : 'Everywhere within reach.'}</span>
        <Button
          size="small"
          onClick={() => {
            dispatch(drawingFor('spill'));
            dispatch(toolChosen('rectangle'));
          }}
        >
          Only in a part
        </Button>
      </div>
    );
  const named = tracks.tracks.map((t) => ({ value: t.id, label: `follows ${t.name}` }));
  return (
    <div className="row" style={{ marginTop: 6 }}>
      <Select
        size="small"
        className="grow"
        aria-label="The part where spill is looked for"
        value={within.follow?.trackId ?? ''}
        options={[{ value: '', label: 'stays where it is drawn' }, ...named]}
        onChange={(id) =>
          id
            ? follow(`Where spill is looked for ${named.find((n) => n.value === id)?.label}`, {
                ...ALL_MOTION,
                trackId: id,
              })
            : follow('Where spill is looked for no longer follows', undefined)
        }
      />
      <Button size="small" onClick={() => onSave('Look for spill everywhere', { ...value, within: undefined })}>
        Everywhere
      </Button>
    </div>
  );
}
