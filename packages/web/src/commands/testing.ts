// A small document for the tests of commands.
import type { KeyLayer, Layer, ProjectDocument, ShapeLayer, Sighting, Track } from '@mellow/contract';
import type { Change } from '../editing/change.ts';
import { applyEdit } from '../editing/optimistic.ts';
import type { Place } from './place.ts';

export const stored = <T>(...values: T[]) => values.map((value) => ({ value, revision: 1 }));
export const shape = (id: string, more: Partial<ShapeLayer> = {}): ShapeLayer => ({
  id,
  name: `Ellipse ${id}`,
  on: true,
  mode: 'add',
  invert: false,
  strength: 1,
  kind: 'shape',
  geometry: { form: 'ellipse', cx: 100, cy: 50, width: 40, height: 20, turnDeg: 0 },
  feather: { innerPx: 1, outerPx: 2, falloff: 'smooth' },
  ...more,
});
export const key = (id: string, more: Partial<KeyLayer> = {}): KeyLayer =>
  ({
    id,
    name: `Range key ${id}`,
    on: true,
    mode: 'add',
    invert: false,
    strength: 1,
    kind: 'range',
    key: null,
    picks: [],
    ...more,
  }) as KeyLayer;

export function documentWith(layers: Layer[] | undefined, more: Partial<Sighting> = {}): ProjectDocument {
  const sighting = { id: 'x', projectId: 'p', pieceId: 'cup', shotId: 's1', animated: {}, steadyFrames: 0 };
  const own = { ...sighting, cleanUp: null, spill: null, trims: {}, body: null, state: 'rough', layers, ...more };
  return {
    project: { value: { id: 'p', name: 'Demo', tolerance: 2, referenceShotId: null, look: null }, revision: 1 },
    shots: stored(
      {
        id: 's1',
        projectId: 'p',
        mediaId: 'm',
        name: 'Bar',
        position: 0,
        encoding: 'rec709',
        balance: null,
        light: null,
        patches: [],
      },
      {
        id: 's2',
        projectId: 'p',
        mediaId: 'm',
        name: 'Street',
        position: 1,
        encoding: 'srgb',
        balance: null,
        light: null,
        patches: [],
      },
    ),
    pieces: stored({ id: 'cup', projectId: 'p', name: 'Cup', kind: 'product', position: 0 }),
    colourways: stored({ id: 'c', projectId: 'p', name: 'A', position: 0 }),
    sightings: layers ? stored(own) : [],
    recipes: [],
    versions: [],
    stills: [],
    requirements: [],
    tracks: [] as { value: Track; revision: number }[],
    media: [],
    role: 'editor',
  } as unknown as ProjectDocument;
}
export function at(
  frame: number,
  more: Partial<Omit<Place, 'keyframing'>> & { auto?: boolean | 'from here'; everywhere?: boolean } = {},
): Place {
  const { auto = false, everywhere = false, ...place } = more;
  const keyframing = { frame, auto, everywhere, ease: 'linear' as const };
  const ids = { shotId: 's1', pieceId: 'cup', colourwayId: 'c' } as unknown as Pick<
    Place,
    'shotId' | 'pieceId' | 'colourwayId'
  >;
  return { ...ids, layerId: null, frame, keyframing, motions: new Map(), ...place };
}
/** The document after a change. */
export function after(document: ProjectDocument, change: Change): ProjectDocument {
  const next = structuredClone(document);
  change.edits.forEach((e) => applyEdit(next, e));
  return next;
}
export const layersAfter = (document: ProjectDocument, change: Change): Layer[] =>
  after(document, change).sightings[0]!.value.layers;
