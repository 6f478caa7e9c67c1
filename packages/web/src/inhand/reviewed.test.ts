import { expect, it } from 'vitest';
import type { Note, StandingVerdict } from '@mellow/contract';
import { openNotes, verdictOf, verdictText, verdictTitle } from './reviewed.ts';

const verdict = (more: object) =>
  ({
    sightingId: 'x',
    colourwayId: 'c',
    decision: 'approved',
    holds: true,
    who: 'Ada',
    text: '',
    at: '2026-03-01T09:30:00Z',
    ...more,
  }) as unknown as StandingVerdict;

it('is said of one sighting in one colourway', () => {
  const said = [verdict({ colourwayId: 'd', who: 'Bo' }), verdict({}), verdict({ sightingId: 'y', who: 'Cy' })];
  expect(verdictOf(said, 'x', 'c')?.who).toBe('Ada');
  expect(verdictOf(said, 'y', 'd')).toBeUndefined();
});
it('a change since withdraws it for the eye, whatever it was', () => {
  expect(verdictText(verdict({}))).toBe('✓ approved by Ada');
  expect(verdictText(verdict({ holds: false }))).toBe('△ changed since approved');
  expect(verdictText(verdict({ decision: 'sent back' }))).toBe('↩ sent back by Ada');
  expect(verdictText(verdict({ decision: 'sent back', holds: false }))).toBe('△ changed since sent back');
  expect(verdictTitle(verdict({ decision: 'sent back', text: 'Too green' }))).toMatch(/Mar.*: “Too green”$/);
});
it('notes that are open are those of the shot, of this colourway or of none, that nobody has ticked off', () => {
  const note = (id: string, more: object = {}) =>
    ({ id, shotId: 's', colourwayId: null, isSettled: false, ...more }) as unknown as Note;
  const notes = [
    note('of all'),
    note('own', { colourwayId: 'c' }),
    note('other', { colourwayId: 'd' }),
    note('done', { isSettled: true }),
    note('elsewhere', { shotId: 't' }),
  ];
  expect(openNotes(notes, 's', 'c').map((n) => n.id)).toEqual(['of all', 'own']);
});
