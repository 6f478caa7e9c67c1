// What the view does when one goes elsewhere, and what it brings back after a reload.
import { describe, expect, it } from 'vitest';
import { takesKeys } from './dialogSlice.ts';
import { dragged, draftDropped, draftSlice } from './draftSlice.ts';
import { drawingFor, handSlice } from './handSlice.ts';
import { keyframesChosen, keyframingSlice } from './keyframingSlice.ts';
import { liveSlice, measuredLive, type Live } from './liveSlice.ts';
import { PLAIN_LOOK } from './lookSlice.ts';
import { playSlice, playToggled } from './playSlice.ts';
import { remember, remembered } from './remembered.ts';
import { shotLeft } from './shotLeft.ts';
import { moved, NOWHERE, projectOpened, whereSlice } from './whereSlice.ts';

const at = (more: object = {}) => ({
  ...NOWHERE,
  projectId: 'p',
  shotId: 's1',
  frame: 7,
  layerId: 'l',
  soloId: 'l',
  pinTrack: true,
  trackId: 't',
  loop: { from: 2, to: 9 },
  ...more,
});

describe('going to another shot', () => {
  it('starts it from frame 0 with nothing of the last one in hand', () => {
    expect(whereSlice.reducer(at(), moved({ shotId: 's2' }))).toEqual({ ...NOWHERE, projectId: 'p', shotId: 's2' });
  });
  it('goes to the frame that is asked for with it', () =>
    expect(whereSlice.reducer(at(), moved({ shotId: 's2', frame: 12 })).frame).toBe(12));
  it('within the same shot changes only what is named', () => {
    expect(whereSlice.reducer(at(), moved({ shotId: 's1', frame: 3 }))).toEqual(at({ frame: 3 }));
    expect(whereSlice.reducer(at(), moved({ frame: 4 }))).toEqual(at({ frame: 4 }));
  });
  it('stops playing, forgets chosen keyframes, what was being drawn and what was measured', () => {
    expect(playSlice.reducer(true, shotLeft())).toBe(false);
    const chosen = keyframingSlice.reducer(undefined, keyframesChosen(['lane@3']));
    expect(keyframingSlice.reducer(chosen, shotLeft()).chosen).toEqual([]);
    const drawing = handSlice.reducer(undefined, drawingFor('track'));
    expect(handSlice.reducer(drawing, shotLeft()).drawFor).toBe('layer');
    const live = liveSlice.reducer(null, measuredLive({ pixels: 3 } as Live));
    expect([live?.pixels, liveSlice.reducer(live, shotLeft())]).toEqual([3, null]);
  });
});

it('another piece is not yet measured; the same frame of the same piece still is', () => {
  const live = { pixels: 3 } as Live;
  expect(liveSlice.reducer(live, moved({ pieceId: 'q' }))).toBeNull();
  expect(liveSlice.reducer(live, moved({ frame: 2 }))).toBe(live);
});
it('a dialog that asks takes what is typed; one that is only read lies beside the work', () => {
  expect([takesKeys({ kind: 'commands' }), takesKeys({ kind: 'newColourway' })]).toEqual([true, true]);
  expect([takesKeys(null), takesKeys({ kind: 'guide' }), takesKeys({ kind: 'firstSteps' })]).toEqual([
    false,
    false,
    false,
  ]);
});
it('playing is toggled, or set as said', () => {
  expect([playSlice.reducer(false, playToggled()), playSlice.reducer(true, playToggled())]).toEqual([true, false]);
  expect([playSlice.reducer(true, playToggled(true)), playSlice.reducer(true, playToggled(false))]).toEqual([
    true,
    false,
  ]);
});
it('drafts of different things stand side by side until they are dropped together', () => {
  const balance = { shotId: 's', balance: {} as never };
  const one = draftSlice.reducer(undefined, dragged({ balance }));
  const two = draftSlice.reducer(one, dragged({ sighting: { sightingId: 'x' } }));
  expect(two).toEqual({ balance, sighting: { sightingId: 'x' } });
  expect(draftSlice.reducer(two, draftDropped())).toEqual({});
});

describe('a project opened again', () => {
  const storage = () => {
    const kept = new Map<string, string>();
    return {
      getItem: (k: string) => kept.get(k) ?? null,
      setItem: (k: string, v: string) => void kept.set(k, v),
      kept,
    };
  };
  it('is where it was left, each project for itself', () => {
    const s = storage();
    const { projectId: _p, ...where } = at();
    remember(s, 'p', {
      where,
      look: { ...PLAIN_LOOK, view: 'Matte' },
      keyframing: { auto: { isolate: true }, everywhere: false, ease: 'hold' },
    });
    expect(remembered(s, 'p')).toMatchObject({
      where,
      look: { view: 'Matte' },
      keyframing: { auto: { isolate: true }, ease: 'hold' },
    });
    expect(remembered(s, 'q').where).toEqual(NOWHERE);
    expect(whereSlice.reducer(undefined, projectOpened({ projectId: 'p', left: where })).frame).toBe(7);
    // opened twice (a second render, say) it stays where one has gone since
    const gone = at({ frame: 20 });
    expect(whereSlice.reducer(gone, projectOpened({ projectId: 'p', left: where }))).toBe(gone);
  });
  it.each(['not json', 'null', '[]', '{"where":null,"look":{"tint":0.3}}'])(
    'survives what an older version kept: %s',
    (text) => {
      const s = storage();
      s.kept.set('mellow:view:p', text);
      const { where, look } = remembered(s, 'p');
      expect(where).toEqual(NOWHERE);
      expect(look).toMatchObject({ view: 'Result', tint: text.includes('0.3') ? 0.3 : 0.6 });
    },
  );
});
