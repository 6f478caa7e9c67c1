import { describe, expect, it } from 'vitest';
import type { ProjectDocument, ProjectLook } from '@mellow/contract';
import { NEUTRAL_CDL } from '@mellow/core';
import { setCdl, setCube, turnLook } from './projectLook.ts';

const cube = { sha256: 'a'.repeat(64), name: 'Evening', kind: '3D' as const, size: 33 };
const withLook = (look: ProjectLook | null) =>
  ({ project: { value: { id: 'p', name: 'P', look }, revision: 1 } }) as unknown as ProjectDocument;
const lookAfter = (change: ReturnType<typeof setCube>) => (change.edits[0]!.value as { look: ProjectLook | null }).look;

describe('the look of a project', () => {
  it('begins with its first number, on, and ends with its last', () => {
    const one = lookAfter(setCdl(withLook(null), 'Saturation', { saturation: 0.8 }));
    expect(one).toEqual({ isOn: true, cdl: { ...NEUTRAL_CDL, saturation: 0.8 }, cube: null });
    expect(lookAfter(setCdl(withLook(one), 'Saturation', { saturation: 1 }))).toBeNull();
  });
  it('keeps its table when the numbers go, and its numbers when the table goes', () => {
    const both = { isOn: false, cdl: { ...NEUTRAL_CDL, saturation: 0.8 }, cube };
    expect(lookAfter(setCdl(withLook(both), 'Saturation', { saturation: 1 }))).toEqual({ ...both, cdl: null });
    expect(lookAfter(setCube(withLook(both), null))).toEqual({ ...both, cube: null });
  });
  it('is turned on by a table that is brought in, and turned on and off by name', () => {
    const off = { isOn: false, cdl: null, cube };
    expect(lookAfter(setCube(withLook(off), cube))!.isOn).toBe(true);
    expect([turnLook(withLook(off)).label, lookAfter(turnLook(withLook(off)))!.isOn]).toEqual(['Look on', true]);
    expect(setCube(withLook(null), cube).label).toBe('Look through Evening');
  });
});
