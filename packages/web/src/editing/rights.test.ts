import { describe, expect, it } from 'vitest';
import type { ProjectDocument, Role } from '@mellow/contract';
import { documentWith } from '../commands/testing.ts';
import type { PlainEdit } from './optimistic.ts';
import { whyNotEdit } from './rights.ts';

const as = (role: Role): ProjectDocument => ({ ...documentWith([]), role });
const sighting = documentWith([]).sightings[0]!.value;
const edit = (fields: object): PlainEdit => ({ kind: 'sighting', id: sighting.id, value: { ...sighting, ...fields } });

describe('edits', () => {
  it('are all an editor’s, none a viewer’s', () => {
    expect(whyNotEdit(as('editor'), [edit({ steadyFrames: 2 })])).toBeUndefined();
    expect(whyNotEdit(as('viewer'), [edit({ state: 'approved' })])).toMatch(/look/);
  });
  it('of a reviewer are of a sighting’s state alone', () => {
    const [reviewer, approval] = [as('reviewer'), edit({ state: 'approved' })];
    expect(whyNotEdit(reviewer, [approval])).toBeUndefined();
    expect(whyNotEdit(reviewer, [edit({ state: 'approved', steadyFrames: 2 })])).toMatch(/reviewer/);
    expect(whyNotEdit(reviewer, [approval, edit({ steadyFrames: 2 })])).toMatch(/reviewer/);
    expect(whyNotEdit(reviewer, [{ kind: 'sighting', id: sighting.id, value: null }])).toMatch(/reviewer/);
    expect(whyNotEdit(reviewer, [{ ...approval, id: 'another' }])).toMatch(/reviewer/);
  });
});
