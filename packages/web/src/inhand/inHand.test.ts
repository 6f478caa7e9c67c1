import { describe, expect, it } from 'vitest';
import type { Balance, Media, ProjectDocument, Recipe, Track } from '@mellow/contract';
import { NEUTRAL_BALANCE, NEUTRAL_RECIPE } from '@mellow/core';
import { documentWith, shape, stored } from '../commands/testing.ts';
import { frameSceneAt, withoutRecolour } from './frameScene.ts';
import { inHandOf, motionsByShot } from './inHand.ts';
import { withDraft } from './withDraft.ts';

const nowhere = { shotId: null, pieceId: null, colourwayId: null };
const media = { id: 'm', width: 1920, height: 1080, frames: 10, pixelFormat: 'yuv420p' } as unknown as Media;
const project = (): ProjectDocument => ({
  ...documentWith([shape('a')], { steadyFrames: 1 }),
  media: [media],
  proxies: { m: { state: 'done' } } as never,
});

describe('what is in hand', () => {
  it('is the first of each kind where nothing, or what is gone, was chosen', () => {
    for (const where of [nowhere, { shotId: 'gone', pieceId: 'gone', colourwayId: 'gone' }]) {
      const { shot, piece, colourwayId, sighting, media: own } = inHandOf(project(), where, new Map(), []);
      expect([shot?.id, piece?.id, colourwayId, sighting?.id, own?.id]).toEqual(['s1', 'cup', 'c', 'x', 'm']);
    }
  });
  it('is what was chosen: a shot without the piece has no sighting of it', () => {
    const { shot, sighting } = inHandOf(project(), { ...nowhere, shotId: 's2' }, new Map(), []);
    expect([shot?.name, sighting]).toEqual(['Street', undefined]);
  });
  it('is nothing in an empty project', () => {
    const empty = { ...project(), shots: [], pieces: [], sightings: [] };
    expect(inHandOf(empty, nowhere, new Map(), [])).toMatchObject({ shot: undefined, piece: undefined, tracks: [] });
  });
  it('is of the piece, shot and colourway chosen, whatever else there is', () => {
    const of = (id: string, pieceId: string, colourwayId: string) => ({ id, pieceId, colourwayId });
    const rows = [of('1', 'tray', 'c'), of('2', 'cup', 'd'), of('3', 'cup', 'c')];
    const other = { ...project().sightings[0]!.value, id: 'z', pieceId: 'tray', shotId: 's1' };
    const d = {
      ...project(),
      media: [{ ...media, id: 'n' }, media],
      colourways: stored({ id: 'd' }, { id: 'c' }),
      sightings: [...stored(other), ...project().sightings],
      recipes: stored(...rows),
      requirements: stored(...rows),
      tracks: stored({ id: 't1', shotId: 's2' }, { id: 't2', shotId: 's1' }),
    } as unknown as ProjectDocument;
    const chosen = inHandOf(d, { shotId: 's1', pieceId: 'cup', colourwayId: 'c' }, new Map(), []);
    const ids = [chosen.recipe, chosen.requirement, chosen.sighting, chosen.media].map((row) => row?.id);
    expect(ids).toEqual(['3', '3', 'x', 'm']);
    expect(chosen.tracks.map((t) => t.id)).toEqual(['t2']);
    const none = inHandOf(d, { shotId: 's2', pieceId: 'cup', colourwayId: 'c' }, new Map(), []);
    expect([none.sighting, none.tracks.map((t) => t.id)]).toEqual([undefined, ['t1']]);
    const bare = { ...d, shots: [], pieces: [], colourways: [] };
    const nothing = inHandOf(bare, nowhere, new Map([['', new Map([['t', {} as never]])]]), []);
    expect([nothing.recipe, nothing.sighting, nothing.colourwayId, nothing.tracks]).toEqual([
      undefined,
      undefined,
      undefined,
      [],
    ]);
  });
  it('knows the motion that a track’s own runs have found', () => {
    const run = (id: string) => ({ id, from: 0, to: 3, first: 1, last: 3 });
    const track = {
      id: 't',
      shotId: 's2',
      referenceFrame: 0,
      region: shape('a').geometry,
      manual: [],
      runs: [run('r')],
    };
    const found = (runId: string, dx: number) => ({
      runId,
      frames: [{ frame: 1, motion: [1, 0, dx, 0, 1, 0, 0, 0, 1], confidence: 1 }],
      stopped: null,
    });
    const runs = [found('other', 50), found('r', 5)] as never;
    const motion = motionsByShot(stored(track as unknown as Track), runs)
      .get('s2')!
      .get('t')!;
    expect(motion.known.get(1)).toMatchObject({ motion: [1, 0, 5, 0, 1, 0, 0, 0, 1] });
    expect(
      motionsByShot(stored(track as unknown as Track), [])
        .get('s2')!
        .get('t')!
        .known.has(1),
    ).toBe(false);
  });
  it('has the motions of its own shot', () => {
    const track = { id: 't', shotId: 's2', referenceFrame: 0, region: shape('a').geometry, manual: [], runs: [] };
    const motions = motionsByShot(stored(track as unknown as Track), []);
    const inHand = inHandOf(project(), { ...nowhere, shotId: 's2' }, motions, []);
    expect([[...inHand.motions.keys()], inHand.motionsOf('s1').size]).toEqual([['t'], 0]);
  });
});

describe('a draft', () => {
  it('of nothing is the document itself', () => {
    const document = project();
    expect(withDraft(document, {})).toBe(document);
  });
  it('changes what the hand moves and nothing else', () => {
    const document = project();
    const balance: Balance = { ...NEUTRAL_BALANCE, exposureStops: 1 };
    const next = withDraft(document, { balance: { shotId: 's2', balance }, sighting: { sightingId: 'x', layers: [] } });
    expect(next.shots[1]!.value.balance).toEqual(balance);
    expect(next.shots[0]).toBe(document.shots[0]);
    expect(next.sightings[0]!.value).toEqual({ ...document.sightings[0]!.value, layers: [] });
    expect(document.sightings[0]!.value.layers).toHaveLength(1);
  });
  it('of a recipe takes its place, or makes one', () => {
    const document = project();
    const recipe = { pieceId: 'cup', colourwayId: 'c', ...NEUTRAL_RECIPE, strength: 0.5 };
    const made = withDraft(document, { recipe });
    expect(made.recipes.map((r) => r.value)).toEqual([{ ...recipe, animated: {} }]);
    const known = {
      ...document,
      recipes: stored({ ...recipe, id: 'r', strength: 1, animated: { s1: {} } } as unknown as Recipe),
    };
    expect(withDraft(known, { recipe }).recipes.map((r) => r.value)).toEqual([
      { ...recipe, id: 'r', animated: { s1: {} } },
    ]);
  });
});

describe('a scene without recolour', () => {
  const program = { isNeutral: false } as never;
  const scene = { index: 1, sightings: [{ program }, { program, spill: {} }, { program }] } as never;
  const left = (off: 'none' | 'piece' | 'all') => withoutRecolour(scene, off).sightings.map((s) => s.program.isNeutral);
  it('leaves out that of the piece in hand, or of all, with their spill', () => {
    expect(withoutRecolour(scene, 'none')).toBe(scene);
    expect(left('piece')).toEqual([false, true, false]);
    expect(left('all')).toEqual([true, true, true]);
    expect(withoutRecolour(scene, 'piece').sightings[1]!.spill).toBeUndefined();
  });
});

describe('the scene of a frame', () => {
  const looked = (document = project()) => {
    const shot = document.shots[0]!.value;
    return { document, shot, media, colourwayId: 'c', pieceId: 'cup', motions: new Map() };
  };
  it('has the frames around that a steadied matte needs, inside the shot only', () => {
    expect(frameSceneAt(looked(), 5).around?.map((a) => a.off)).toEqual([-1, 1]);
    expect(frameSceneAt(looked(), 0).around?.map((a) => a.off)).toEqual([1]);
    expect(frameSceneAt(looked(), 9).around?.map((a) => a.off)).toEqual([-1]);
    const urls = frameSceneAt(looked(), 5).around!.map((a) => a.frame.url);
    expect(urls).toEqual(['/api/media/m/frames/proxy/4.png', '/api/media/m/frames/proxy/6.png']);
    expect(frameSceneAt(looked(), 1).around?.map((a) => a.off)).toEqual([-1, 1]);
    expect(frameSceneAt(looked(), 5, false).around).toBeUndefined();
    // the render has no others of a part of the footage
    const part = { ...looked(), shot: { ...looked().shot, span: { from: 5, to: 8 } } };
    expect([5, 8].map((at) => frameSceneAt(part, at).around?.map((a) => a.off))).toEqual([[1], [-1]]);
  });
  it('names the frame, never one beyond the last, and the piece in hand', () => {
    const scene = frameSceneAt(looked(), 40, false);
    expect([scene.frame.url, scene.index]).toEqual(['/api/media/m/frames/proxy/9.png', 0]);
    expect(frameSceneAt({ ...looked(), pieceId: 'other' }, 0).index).toBe(-1);
  });
  it('has the plates its stacks name, where their file has such a frame', () => {
    const plate = { ...shape('p'), kind: 'plate', mediaId: 'm', channel: 'luma', offsetFrames: 4 } as never;
    const document = { ...documentWith([plate]), media: [media], proxies: { m: { state: 'done' } } as never };
    const plates = (frame: number) => Object.values(frameSceneAt(looked(document), frame).frame.plates);
    expect(plates(5)).toEqual(['/api/media/m/frames/proxy/9.png']);
    expect(plates(6)).toEqual([]);
    document.proxies = { m: { state: 'running' } } as never;
    expect(plates(5)).toEqual([]);
    document.proxies = {} as never;
    expect(plates(5)).toEqual([]);
  });
  it('takes a plate’s alpha where that is asked for and there, else its luma, and no frame before its first', () => {
    const plate = (channel: string, offsetFrames: number) =>
      ({ ...shape('p'), kind: 'plate', mediaId: 'k', channel, offsetFrames }) as never;
    const matte = (pixelFormat: string) => ({ ...media, id: 'k', pixelFormat });
    const urls = (channel: string, pixelFormat: string, offset = 0) => {
      const document = { ...documentWith([plate(channel, offset)]), media: [media, matte(pixelFormat)] };
      Object.assign(document, { proxies: { k: { state: 'done' } } });
      return Object.values(frameSceneAt(looked(document as never), 0).frame.plates);
    };
    expect(urls('alpha', 'rgba')).toEqual(['/api/media/k/frames/alpha/0.png']);
    expect(urls('alpha', 'rgb24')).toEqual(['/api/media/k/frames/proxy/0.png']);
    expect(urls('luma', 'rgba')).toEqual(['/api/media/k/frames/proxy/0.png']);
    expect([urls('luma', 'rgba', -1), urls('luma', 'rgba', 10)]).toEqual([[], []]);
    const missing = { ...documentWith([plate('luma', 0)]), media: [media], proxies: {} as never };
    expect(Object.values(frameSceneAt(looked(missing), 0).frame.plates)).toEqual([]);
  });
});
