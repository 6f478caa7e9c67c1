// Mattes are kept by what they depend on: what has not changed is not computed again.
import { expect, it } from 'vitest';
import { compile, makeTables, NEUTRAL_RECIPE, sourceFrame, type SightingRender } from '@mellow/core';
import { shape } from '../commands/testing.ts';
import type { FrameScene } from './frameProtocol.ts';
import { FrameStore } from './frameStore.ts';
import { layerMatte, mattesOf } from './stackMattes.ts';

const tables = makeTables();
const picture = () => {
  const plane = () => new Uint8Array(64 * 32).fill(90);
  return { width: 64, height: 32, r: plane(), g: plane(), b: plane() };
};
const frame = () => sourceFrame(picture(), 'srgb', 1, tables);
const small = { form: 'ellipse' as const, cx: 20, cy: 16, width: 20, height: 16, turnDeg: 0 };
const scene: FrameScene = { frame: { url: '1', encoding: 'srgb', fullWidth: 64, plates: {} }, sightings: [], index: 0 };
const of = (...layers: SightingRender['layers']): SightingRender => ({
  layers,
  program: compile(NEUTRAL_RECIPE),
});

it('a layer’s own matte stays when it is renamed, joined otherwise or locked, and not when it is moved', () => {
  const source = frame();
  const layer = shape('a', { geometry: small });
  const matte = layerMatte(source, layer);
  expect(Math.max(...matte)).toBe(1);
  expect(layerMatte(source, { ...layer, name: 'Other', mode: 'within', strength: 0.3, locked: true })).toBe(matte);
  const moved = layerMatte(source, { ...layer, geometry: { ...small, cx: 40 } });
  expect(moved).not.toBe(matte);
  expect(moved[16 * 64 + 40]).toBe(1);
  expect(layerMatte(frame(), layer)).not.toBe(matte);
});
it('a stack’s matte stays when only its recolour changes, and not when a layer joins otherwise', async () => {
  const store = new FrameStore(tables, { fetched: () => Promise.resolve(picture()) });
  const source = frame();
  const matteOf = await mattesOf(store, source, scene);
  const [a, b] = [shape('a', { geometry: small }), shape('b', { geometry: { ...small, cx: 26 } })];
  const matte = matteOf(of(a, b), 0);
  expect(matteOf({ ...of(a, b), program: compile({ ...NEUTRAL_RECIPE, strength: 0.5 }) }, 0)).toBe(matte);
  const within = matteOf(of(a, { ...b, mode: 'within' }), 0);
  expect(within).not.toBe(matte);
  const sum = (m: Float32Array) => m.reduce((s, v) => s + v, 0);
  expect(sum(within)).toBeLessThan(sum(matte));
  expect(matteOf(of(a, { ...b, on: false }), 0)).not.toBe(matte);
});
it('a matte that is to be steady takes in the frames around it, as far as it asks for', async () => {
  const store = new FrameStore(tables, { fetched: () => Promise.resolve(picture()) });
  const source = frame();
  const a = shape('a', { geometry: small });
  const around = [-1, 1].map((off) => ({ off, frame: { ...scene.frame, url: String(off) }, sightings: [of(a)] }));
  const matteOf = await mattesOf(store, source, { ...scene, around });
  const plain = matteOf(of(a), 0);
  const steadied = matteOf({ ...of(a), steadyFrames: 1 }, 0);
  expect(steadied).not.toBe(plain);
  expect(matteOf({ ...of(a), steadyFrames: 1 }, 0)).toBe(steadied);
});
