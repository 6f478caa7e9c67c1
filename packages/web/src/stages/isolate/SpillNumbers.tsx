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
const ROWS: NumberRow<'reachPx' | 'amount' | 'tolerance'>[] = [
  { key: 'reachPx', label: 'Reach', unit: 'px', min: 0, max: 1000, step: 1, digits: 0 },
  { key: 'amount', label: 'Amount', unit: '%', min: 0, max: 100, step: 1, digits: 0, scale: 100 },
  { key: 'tolerance', label: 'Tolerance', unit: '', min: 0.001, max: 0.4, step: 0.001, digits: 3 },
];
const DOES: Record<Spill['mode'], string> = {
  off: 'The surroundings stay as they are.',
  remove: 'A fringe of the old colour goes back to the colour of its surroundings.',
  bounce: 'A floor or wall that you mark takes on the light of the new colour.',
};
const NOTES: Record<Spill['mode'], string> = {
  off: '',
  remove: 'Tint shows in yellow-green what is taken; Difference what it does.',
  bounce: 'Difference shows what it does.',
};
/** A usual floor gives back so much of the most there is. */
const USUAL_BOUNCE = 0.67;

/** Colour of the piece outside its matte: leave it, take the old one out, or throw the new one onto a marked floor. */
export function SpillNumbers({ value, onDrag, onSave, tracks, motions, frame }: Props) {
  const now: Spill = value ?? NO_SPILL;
  return (
    <section aria-label="Spill">
      <h2 style={{ marginBottom: 8 }}>
        Spill <span className="quiet">the piece’s colour round it</span>
      </h2>
      <Segmented
        aria-label="Spill"
        block
        options={['off', 'remove', 'bounce'] as Spill['mode'][]}
        value={now.mode}
        onChange={(mode) => onSave(`Spill: ${mode}`, withMode(now, mode))}
      />
      <div className="quiet" style={{ margin: '6px 0' }}>
        {now.retired && 'This stood at “follow”, which made shots worse and is no longer offered: it is off. '}
        {DOES[now.mode]} {NOTES[now.mode]}
      </div>
      {now.mode !== 'off' && (
        <div className="numbers">
          <NumberRows
            rows={now.mode === 'bounce' ? ROWS.filter((r) => r.key === 'amount') : ROWS}
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

const NOWHERE_DRAWN: Record<Spill['mode'], string> = {
  off: '',
  remove: 'Everywhere within reach.',
  bounce: 'No floor is marked yet: nothing happens.',
};
function withMode({ retired: _retired, ...now }: Spill, mode: Spill['mode']): Spill {
  return { ...now, mode, ...(mode === 'bounce' && now.mode !== 'bounce' && { amount: USUAL_BOUNCE }) };
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
        <span className="quiet grow">{drawing ? 'Draw the part in the picture.' : NOWHERE_DRAWN[value.mode]}</span>
        <Button
          size="small"
          onClick={() => {
            dispatch(drawingFor('spill'));
            dispatch(toolChosen('rectangle'));
          }}
        >
          {value.mode === 'bounce' ? 'Mark the floor' : 'Only in a part'}
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
