import { expect, it } from 'vitest';
import type { Layer, Media, ProjectDocument, ScribbleLayer, Shot } from '@mellow/contract';
import type { FrameRef } from '../engine/frameProtocol.ts';
import { frameRefOf, layerOn, withCarried } from './frameScene.ts';

const runId = '11111111-1111-4111-8111-111111111111';
const scribble = {
  id: 'a',
  name: 'Scribble 1',
  on: true,
  mode: 'add',
  invert: false,
  strength: 1,
  kind: 'scribble',
  strokes: [{ sign: 'in', widthPx: 8, points: [[1, 1]], frame: 2 }],
  carried: [{ id: runId, from: 2, to: 9, strokes: 'x' }],
} as ScribbleLayer;
const document = {
  project: { value: { id: 'p' } },
  carried: { [runId]: [0.9, 0.8, 0.9] },
} as unknown as ProjectDocument;
const ref = { url: 'u', plates: {} } as unknown as FrameRef;

it('a carried layer on a frame names the masks that had been found there, and its frame where they lie', () => {
  const now = layerOn(document, scribble, 4, new Map()) as ScribbleLayer;
  expect(now).toMatchObject({ strokes: [], from: [{ runId, frame: 4, weight: 1 }] });
  const group = { kind: 'group', layers: [now] } as unknown as Layer;
  expect(withCarried(ref, document, [group]).carried).toEqual({
    [`${runId} 4`]: `/api/projects/p/carry-runs/${runId}/4`,
  });
});
it('has nothing from frames that were not found yet, and leaves frames without such layers as they are', () => {
  expect((layerOn(document, scribble, 6, new Map()) as ScribbleLayer).from).toEqual([]);
  expect((layerOn(document, scribble, 2, new Map()) as ScribbleLayer).strokes).toHaveLength(1);
  expect(withCarried(ref, document, [])).toBe(ref);
});
it('a frame says whether its footage has fewer samples of chroma than of luma, as the render is told', () => {
  const empty = { sightings: [], media: [], proxies: {} } as unknown as ProjectDocument;
  const shot = { id: 's', encoding: 'rec709', balance: null } as unknown as Shot;
  const of = (pixelFormat: string) =>
    frameRefOf(empty, shot, { id: 'm', sha256: 'f', frames: 9, width: 64, pixelFormat } as Media, 3).sharesChroma;
  expect([of('yuv422p10le'), of('yuv444p10le'), of('gbrp')]).toEqual([true, false, false]);
});
