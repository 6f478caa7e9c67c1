import { describe, expect, it } from 'vitest';
import type { PieceId, ProjectDocument, SightingMeasurements } from '@mellow/contract';
import { labFromLinear709 } from '@mellow/core';
import { pieceLook } from './pieceStates.ts';

const GREEN = [0.2, 0.5, 0.1] as const;
const measured = (sightingId: string, meanLinear: readonly number[], fresh = true) =>
  ({
    sightingId,
    colourwayId: 'w',
    fresh,
    frames: [{ frame: 0, before: { meanLinear: [0.5, 0.2, 0.1] }, after: { meanLinear } }],
  }) as unknown as SightingMeasurements;
const sighting = (id: string, shotId: string, layers = [{}]) => ({ value: { id, shotId, pieceId: 'p', layers } });
const documentWith = (sightings: unknown[], isRequired = true) =>
  ({
    project: { value: { tolerance: 2 } },
    shots: [{ value: { id: 's1' } }, { value: { id: 's2' } }],
    sightings,
    requirements: isRequired
      ? [
          {
            value: {
              pieceId: 'p',
              colourwayId: 'w',
              lab: labFromLinear709([...GREEN]),
              illuminant: 'D65',
              tolerance: null,
            },
          },
        ]
      : [],
  }) as unknown as ProjectDocument;
const look = (document: ProjectDocument, measurements: SightingMeasurements[] = []) =>
  pieceLook(document, measurements, 'w', 'p' as PieceId);

describe('how a piece is shown', () => {
  const both = documentWith([sighting('a', 's1'), sighting('b', 's2')]);
  it('is as good as its worst sighting', () => {
    expect(look(both, [measured('a', GREEN), measured('b', GREEN)])).toMatchObject({
      state: 'matches',
      shots: 2,
      matching: 2,
    });
    expect(look(both, [measured('a', GREEN), measured('b', [0.5, 0.2, 0.1])])).toMatchObject({
      state: 'off',
      matching: 1,
    });
  });
  it('waits while any sighting is not measured, or was measured before an edit', () => {
    expect(look(both, [measured('a', GREEN)]).state).toBe('waiting');
    expect(look(both, [measured('a', GREEN), measured('b', GREEN, false)]).state).toBe('waiting');
  });
  it('that is off is off, whatever else is waited for', () =>
    expect(look(both, [measured('b', [0.5, 0.2, 0.1])]).state).toBe('off'));
  it('is isolated nowhere without layers, and free without a requirement', () => {
    expect(look(documentWith([sighting('a', 's1', [])]))).toMatchObject({ state: 'none', shots: 0 });
    expect(look(documentWith([sighting('a', 's1')], false), [measured('a', GREEN)])).toMatchObject({
      state: 'free',
      to: null,
    });
  });
  it('shows its colour as filmed and as required', () => {
    const { from, to } = look(both, [measured('a', GREEN)]);
    expect([from, to]).toEqual([expect.stringMatching(/^#b.{5}$/), expect.stringMatching(/^#.{2}b/)]);
  });
});
