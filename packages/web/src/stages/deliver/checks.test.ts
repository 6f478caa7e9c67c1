import { describe, expect, it } from 'vitest';
import type { ProjectDocument, SightingMeasurements } from '@mellow/contract';
import { labFromLinear709 } from '@mellow/core';
import { checksBefore, checksInAll } from './checks.ts';

const rows = <T>(...values: T[]) => values.map((value) => ({ value, revision: 1 }));
const document = {
  project: { value: { tolerance: 2 } },
  shots: rows({ id: 's1', name: 'Bar' }, { id: 's2', name: 'Street' }),
  pieces: rows({ id: 'p', name: 'Cup' }),
  sightings: rows(
    { id: 'x', pieceId: 'p', shotId: 's1', layers: [{}] },
    { id: 'y', pieceId: 'p', shotId: 's2', layers: [] },
  ),
  requirements: rows({
    name: 'Marigold',
    pieceId: 'p',
    colourwayId: 'c',
    illuminant: 'D65',
    tolerance: null,
    lab: labFromLinear709([0.5, 0.2, 0.1]),
  }),
} as unknown as ProjectDocument;
const measured = (more: Partial<SightingMeasurements> = {}, frame: object = {}) => {
  const after = { meanLinear: [0.5, 0.2, 0.1], lab: labFromLinear709([0.5, 0.2, 0.1]) };
  const frames = [0, 1].map((n) => ({ frame: n, coverage: 0.9, resultClippedShare: 0, after, ...frame }));
  const all = { sightingId: 'x', colourwayId: 'c', fresh: true, measuredFrames: 2, frames, ...more };
  return [all] as unknown as SightingMeasurements[];
};
const checks = (measurements: SightingMeasurements[], shots = ['s1']) =>
  checksBefore(document, measurements, 'c', shots).map(({ mark, text }) => `${mark} ${text}`);

describe('before a render', () => {
  it('says the state of each check in a word, and where it is mended', () => {
    const found = checksBefore(document, measured({ measuredFrames: 3 }, { resultClippedShare: 0.25 }), 'c', [
      's1',
      's2',
    ]);
    expect(found.map(({ word, at }) => [word, at])).toEqual([
      ['empty', { shotId: 's1', pieceId: 'p', stage: 'isolate' }],
      ['clipped', { shotId: 's1', pieceId: 'p', stage: 'recolour' }],
      ['unchanged', { shotId: 's2', stage: 'isolate' }],
    ]);
  });
  it('has nothing to say of a piece that is covered, unclipped and of its colour', () =>
    expect(checks(measured())).toEqual([]));
  it('names a piece whose colour wanders through the shot', () => {
    const other = { meanLinear: [0.4, 0.2, 0.1], lab: labFromLinear709([0.4, 0.2, 0.1]) };
    const [all] = measured();
    const frames = [all!.frames[0]!, { ...all!.frames[1]!, after: other }];
    const found = checksBefore(document, [{ ...all!, frames }] as never, 'c', ['s1']);
    expect(found.map((c) => c.word)).toContain('drifts');
    expect(found.find((c) => c.word === 'drifts')!.text).toMatch(/^Bar: the colour of the Cup drifts by ΔE00 \d/);
  });
  it('says what was sent back and not touched since, and what was approved and touched since', () => {
    const verdict = (decision: string, holds: boolean, text = '') =>
      [{ sightingId: 'x', colourwayId: 'c', decision, holds, who: 'Ada', text }] as never;
    const said = (verdicts: never) =>
      checksBefore(document, measured(), 'c', ['s1'], { verdicts }).map(({ mark, word, text }) => [mark, word, text]);
    expect(said(verdict('sent back', true, 'Too green'))).toEqual([
      ['✕', 'sent back', 'Bar: the Cup was sent back by Ada: “Too green”'],
    ]);
    expect(said(verdict('approved', false))).toEqual([
      ['⚠', 'not as approved', 'Bar: the Cup has changed since it was approved.'],
    ]);
    expect([...said(verdict('approved', true)), ...said(verdict('sent back', false))]).toEqual([]);
  });
  it('repeats each note that nobody has seen to, and leads to its frame', () => {
    const note = { shotId: 's1', colourwayId: 'c', frame: 7, who: 'Ada', text: 'Warmer', isSettled: false };
    const notes = [note, { ...note, isSettled: true }, { ...note, colourwayId: 'd' }] as never;
    expect(checksBefore(document, measured(), 'c', ['s1'], { notes })).toEqual([
      {
        mark: '⚠',
        word: 'noted',
        text: 'Bar: frame 7, Ada: “Warmer”',
        at: { shotId: 's1', stage: 'recolour' },
        frame: 7,
      },
    ]);
  });
  it('says first what footage is missing or has changed, of a shot and of the plates in it', () => {
    const plate = { kind: 'group', layers: [{ kind: 'plate', mediaId: 'm3' }] };
    const withFootage = {
      ...document,
      shots: rows({ id: 's1', name: 'Bar', mediaId: 'm1' }, { id: 's2', name: 'Street', mediaId: 'm2' }),
      sightings: rows({ id: 'x', pieceId: 'p', shotId: 's1', layers: [plate] }),
    } as unknown as ProjectDocument;
    const faults = [
      { mediaId: 'm1', name: 'a_[1-9].png', fault: 'missing', file: 'a_3.png' },
      { mediaId: 'm2', name: 'b.mov', fault: 'changed', file: null },
      { mediaId: 'm3', name: 'matte.mov', fault: 'changed', file: null },
    ] as never;
    const found = checksBefore(withFootage, measured(), 'c', ['s1'], { faults });
    expect(found.map(({ mark, word, text }) => `${mark} ${word} ${text}`)).toEqual([
      '✕ missing Bar: “a_3.png” of its footage “a_[1-9].png” is missing.',
      '✕ changed Bar: its footage “matte.mov” is no longer what was brought in.',
    ]);
    expect(found[0]!.at).toEqual({ shotId: 's1', stage: 'shots' });
  });
  it('in several colourways says once what is true of all, and names the colourway of what is not', () => {
    const way = (id: string, name: string) => ({ id, name }) as never;
    const found = checksInAll(document, measured(), [way('c', 'Retail'), way('d', 'Plum')], ['s1', 's2']);
    expect(found.map((c) => c.text)).toEqual([
      'Street: no piece is isolated; it will be rendered unchanged.',
      'Plum, Bar: the Cup is still being measured.',
    ]);
    const one = checksInAll(document, measured(), [way('d', 'Plum')], ['s1']);
    expect(one.map((c) => c.text)).toEqual(['Bar: the Cup is still being measured.']);
  });
  it('says when what is judged is not what is rendered', () => {
    const withLook = (isOn: boolean) =>
      ({ ...document, project: { value: { tolerance: 2, look: { isOn, cdl: null, cube: null } } } }) as never;
    const texts = (isOn: boolean, rendered: boolean) =>
      checksBefore(withLook(isOn), measured(), 'c', ['s1'], { withLook: rendered }).map((c) => c.text);
    expect(texts(true, false)).toEqual(['All shots: judged through the look, rendered without it.']);
    expect(texts(false, true)).toEqual(['All shots: judged without the look, rendered through it.']);
    expect([texts(true, true), texts(false, false)]).toEqual([[], []]);
  });
  it('names the shots whose own look that is', () => {
    const [shot, ...others] = document.shots;
    const own = { ...shot!, value: { ...shot!.value, look: { cdl: null, curves: null, cube: null } } };
    const withOwn = { ...document, shots: [own, ...others] } as never;
    const ids = document.shots.map((s) => s.value.id);
    const texts = checksBefore(withOwn, measured(), 'c', ids, { withLook: false }).map((c) => c.text);
    expect(texts[0]).toBe(`${shot!.value.name}: judged through the look, rendered without it.`);
  });
  it('says of a shot in which nothing is isolated that it stays as it is', () =>
    expect(checks(measured(), ['s1', 's2'])).toEqual([
      '⚠ Street: no piece is isolated; it will be rendered unchanged.',
    ]));
  it('says what is not yet measured, or empty', () => {
    expect(checks([])).toEqual(['⚠ Bar: the Cup is still being measured.']);
    expect(checks(measured({ measuredFrames: 5 }))).toEqual(['⚠ Bar: the matte of the Cup is empty on 3 frames.']);
    expect(checks(measured({ measuredFrames: 3 }))).toEqual(['⚠ Bar: the matte of the Cup is empty on 1 frame.']);
  });
  it('names a piece of which little is selected, whatever its ΔE', () =>
    expect(checks(measured({}, { coverage: 0.04 }))).toEqual([
      '⚠ Bar: only about 4 % of what looks like the Cup is selected.',
    ]));
  it('names a piece a quarter of which the recolour clips', () =>
    expect(checks(measured({}, { resultClippedShare: 0.25 }))).toEqual([
      '⚠ Bar: the recolour clips 25 % of the Cup on its worst frame.',
    ]));
  it('names what is out of tolerance, with the mark that it has everywhere', () => {
    const said = (rgb: [number, number, number]) =>
      checks(measured({}, { after: { meanLinear: rgb, lab: labFromLinear709(rgb) } }))[0];
    const text = /Bar: the Cup is ΔE00 \d+\.\d\d from Marigold \(tolerance 2\)\.$/;
    expect(said([0.4, 0.2, 0.2])).toMatch(new RegExp(`^✕ ${text.source}`));
    expect(said([0.42, 0.2, 0.1])).toMatch(new RegExp(`^≈ ${text.source}`));
  });
});
