import { describe, expect, it } from 'vitest';
import type { Look, ProjectDocument, ProjectLook, ShotId } from '@mellow/contract';
import { NEUTRAL_CDL, STRAIGHT_CURVE } from '@mellow/core';
import { withDraft } from '../inhand/withDraft.ts';
import {
  dropOwnLook,
  isLookOn,
  lookThere,
  sendLook,
  setCdl,
  setCube,
  setCurves,
  setViewTable,
  turnLook,
} from './looks.ts';

const cube = { sha256: 'a'.repeat(64), name: 'Evening', kind: '3D' as const, size: 33 };
const ids = ['s1', 's2', 's3'] as ShotId[];
const [S1, S2, S3] = ids as [ShotId, ShotId, ShotId];
const withLook = (look: ProjectLook | null, own: Partial<Record<string, Look>> = {}) =>
  ({
    project: { value: { id: 'p', name: 'P', look, viewTable: null }, revision: 1 },
    shots: ids.map((id) => ({ value: { id, name: id.toUpperCase(), look: own[id] ?? null }, revision: 1 })),
  }) as unknown as ProjectDocument;
const values = ({ edits }: ReturnType<typeof setCube>) =>
  edits.map((e) => e.value as { id: string; look: Look | null });
const lookAfter = (change: ReturnType<typeof setCube>) => values(change)[0]!.look as ProjectLook | null;
const dim = { ...NEUTRAL_CDL, saturation: 0.8 };

describe('the look of a project', () => {
  it('begins with its first number, on, and ends with its last', () => {
    const one = lookAfter(setCdl(withLook(null), 'project', 'Saturation', { saturation: 0.8 }));
    expect(one).toEqual({ isOn: true, cdl: dim, curves: null, cube: null });
    expect(lookAfter(setCdl(withLook(one), 'project', 'Saturation', { saturation: 1 }))).toBeNull();
  });
  it('keeps its table when the numbers go, and its numbers when the table goes', () => {
    const both = { isOn: false, cdl: dim, curves: null, cube };
    expect(lookAfter(setCdl(withLook(both), 'project', 'Saturation', { saturation: 1 }))).toEqual({
      ...both,
      cdl: null,
    });
    expect(lookAfter(setCube(withLook(both), 'project', null))).toEqual({ ...both, cube: null });
  });
  it('has curves until all of them are straight again', () => {
    const bent = { ...STRAIGHT_CURVE, middle: { at: 0.5, to: 0.6 } };
    const look = lookAfter(setCurves(withLook(null), 'project', 'Curve of red', { red: bent }));
    expect(look!.curves).toMatchObject({ red: bent, tone: STRAIGHT_CURVE });
    expect(lookAfter(setCurves(withLook(look), 'project', 'Curve of red', { red: STRAIGHT_CURVE }))).toBeNull();
  });
  it('is turned on by a table that is brought in, and turned on and off by name', () => {
    const off = { isOn: false, cdl: null, curves: null, cube };
    expect(lookAfter(setCube(withLook(off), 'project', cube))!.isOn).toBe(true);
    expect([turnLook(withLook(off)).label, lookAfter(turnLook(withLook(off)))!.isOn]).toEqual(['Look on', true]);
    expect(setCube(withLook(null), 'project', cube).label).toBe('Look through Evening');
  });
  it('that is off stays so when it loses its last number', () => {
    const off = { isOn: false, cdl: dim, curves: null, cube: null };
    const after = lookAfter(setCdl(withLook(off), 'project', 'Saturation', { saturation: 1 }));
    expect(after).toEqual({ ...off, cdl: null });
    expect(lookAfter(turnLook(withLook(after)))).toBeNull();
  });
});

describe('the look of a shot', () => {
  const all = { isOn: true, cdl: dim, curves: null, cube: null };
  it('begins with the project’s and leaves that as it is', () => {
    const change = setCube(withLook(all), S2, cube);
    expect(values(change)).toMatchObject([{ id: 's2', look: { cdl: dim, curves: null, cube } }]);
    expect(values(change)[0]!.look).not.toHaveProperty('isOn');
  });
  it('turns looks on where a table is brought in, in the same step', () => {
    const change = setCube(withLook({ ...all, isOn: false }), S2, cube);
    expect(change.edits.map((e) => e.kind)).toEqual(['shot', 'project']);
    expect(isLookOn(withLook(values(change)[1]!.look as ProjectLook))).toBe(true);
  });
  it('may change nothing at all where the project’s does, and is given up by name', () => {
    const plain = { cdl: null, curves: null, cube: null };
    const own = withLook(all, { s2: { ...plain, cdl: dim } });
    expect(values(setCdl(own, S2, 'Saturation', { saturation: 1 }))[0]!.look).toEqual(plain);
    expect(values(dropOwnLook(own, S2))[0]!.look).toBeNull();
    expect(dropOwnLook(own, S1).edits).toEqual([]);
  });
  it('goes to others as their own, to itself never', () => {
    const own = withLook(all, { s2: { cdl: null, curves: null, cube } });
    expect(values(sendLook(own, S2, [S1, S2, S3]))).toMatchObject([
      { id: 's1', look: { cube } },
      { id: 's3', look: { cube } },
    ]);
    // one that has none sends the project's
    expect(values(sendLook(own, S1, [S2]))[0]!.look!.cdl).toEqual(dim);
  });
  it('is shown while a hand drags it, and the project’s is', () => {
    const look = { cdl: dim, curves: null, cube: null };
    const document = { ...withLook(null), sightings: [], tracks: [], recipes: [] } as unknown as ProjectDocument;
    const ofShot = withDraft(document, { look: { whose: S2, look } });
    expect([lookThere(ofShot, S2), lookThere(ofShot, S1)]).toEqual([look, { ...look, cdl: null }]);
    const ofAll = withDraft(document, { look: { whose: 'project', look } });
    expect(lookThere(ofAll, S1).cdl).toEqual(dim);
  });
});

it('a viewing table is no part of the look', () => {
  const change = setViewTable(withLook(null), cube);
  expect(change.edits[0]!.value).toMatchObject({ look: null, viewTable: cube });
  expect([change.label, setViewTable(withLook(null), null).label]).toEqual([
    'Judge through Evening',
    'Judge without a viewing table',
  ]);
});
