// Mattes of layers and of whole stacks, kept as long as their frame is: moving one layer leaves the others' as they
// are.
import { frameMatte, ownMatte, type Layer, type SightingRender, type SourceFrame } from '@mellow/core';
import { LRUCache } from 'lru-cache';
import type { FrameScene } from './frameProtocol.ts';
import type { FrameStore } from './frameStore.ts';

const KEPT_MATTES = 12;
const kept = new WeakMap<SourceFrame, LRUCache<string, Float32Array>>();

function cached(frame: SourceFrame, key: string, make: () => Float32Array): Float32Array {
  const own = kept.get(frame) ?? new LRUCache<string, Float32Array>({ max: KEPT_MATTES });
  kept.set(frame, own);
  const known = own.get(key);
  if (known) return known;
  const made = make();
  own.set(key, made);
  return made;
}

/** What the mattes kept with a frame take, bytes. */
export const matteBytes = (frame: SourceFrame): number =>
  [...(kept.get(frame)?.values() ?? [])].reduce((bytes, matte) => bytes + matte.byteLength, 0);

/** What a layer's own matte depends on: not its name, nor how it joins. */
function contentOf(layer: Layer): unknown {
  const { id: _id, name: _name, mode: _mode, strength: _strength, on: _on, locked: _locked, ...rest } = layer;
  if (!('layers' in rest)) return 'picks' in rest ? { ...rest, picks: undefined } : rest;
  return { ...rest, layers: joinedOf(rest.layers) };
}
/** What a stack's matte depends on: its layers' own mattes and how they join. */
const joinedOf = (layers: readonly Layer[]): unknown[] => layers.map((l) => [l.mode, l.strength, l.on, contentOf(l)]);

export const layerMatte = (frame: SourceFrame, layer: Layer): Float32Array =>
  cached(frame, JSON.stringify(contentOf(layer)), () => ownMatte(frame, layer, (inner) => layerMatte(frame, inner)));

const stackKey = ({ layers, cleanUp }: SightingRender): unknown => [cleanUp, joinedOf(layers)];
/** The stacks that a frame has been isolated by, as their layers' ids. */
const met = new WeakMap<SourceFrame, Set<string>>();
/** Has this stack, with other numbers, been on the frame before? Then a hand is at work on it. */
function isChanging(frame: SourceFrame, layers: readonly Layer[]): boolean {
  const own = met.get(frame) ?? new Set<string>();
  met.set(frame, own);
  const stack = layers.map((l) => l.id).join(' ');
  return own.size === own.add(stack).size;
}
/**
 * The first time as far as the stack can select anything, and no further: so frames pass quickly. From then on layer by
 * layer, each kept: so a hand moves one while the others stay.
 */
const stackMatte = (frame: SourceFrame, sighting: SightingRender): Float32Array =>
  cached(frame, JSON.stringify(stackKey(sighting)), () => {
    const { layers, cleanUp } = sighting;
    const each = isChanging(frame, layers) ? (layer: Layer) => layerMatte(frame, layer) : undefined;
    return frameMatte(frame, layers, cleanUp, each);
  });

export type MatteOf = (sighting: SightingRender, index: number) => Float32Array;
/** α of the sightings of a scene, steadied where they ask for it; the frames around are loaded first. */
export async function mattesOf(store: FrameStore, frame: SourceFrame, { around = [] }: FrameScene): Promise<MatteOf> {
  const near = await Promise.all(around.map(async (a) => ({ ...a, source: await store.frame(a.frame) })));
  const steadiedMatte = near.length > 0 ? (await import('./overTime.ts')).steadiedMatte : undefined;
  return (sighting, i) => {
    const taken = near
      .filter(({ off }) => Math.abs(off) <= (sighting.steadyFrames ?? 0))
      .map((n) => ({ source: n.source, sighting: n.sightings[i]! }));
    if (taken.length === 0 || !steadiedMatte) return stackMatte(frame, sighting);
    const key = JSON.stringify([sighting, ...taken.map((n) => n.sighting)].map(stackKey));
    return cached(frame, `steady ${key}`, () => steadiedMatte(frame, sighting, taken, stackMatte));
  };
}
