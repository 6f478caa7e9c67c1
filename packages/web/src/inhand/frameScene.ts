// What lies on a frame of a shot, ready for the engine.
import {
  balanceOf,
  framesOf,
  hasAlpha,
  rendersOfShot,
  within,
  sharesChroma,
  type Media,
  type PlateLayer,
  type ProjectDocument,
  type Layer,
  withFound,
  type Shot,
} from '@mellow/contract';
import {
  carriedId,
  carriedOf,
  layerAt,
  NEUTRAL_PROGRAM,
  plateId,
  platesOf,
  sightingAt,
  type Motions,
  type SightingRender,
} from '@mellow/core';
import { carriedUrl, codesUrl, frameUrl } from '../engine/frameUrl.ts';
import type { FrameRef, FrameScene } from '../engine/frameProtocol.ts';
import type { RecolourOff } from '../view/handSlice.ts';

/** A shot with the piece and colourway it is looked at for. */
export interface Looked {
  document: ProjectDocument;
  shot: Shot;
  media: Media;
  colourwayId: string | undefined;
  pieceId: string | undefined;
  motions: Motions;
}

/** The pieces of a shot as the renderer takes them on a frame, in recolouring order; and which of them is in hand. */
function rendersOn(looked: Looked, frame: number): { sightings: SightingRender[]; index: number } {
  const { renders, sightings } = rendersOfShot(looked.document, looked.shot.id, looked.colourwayId);
  return {
    sightings: renders.map((r) => sightingAt(r, frame, looked.motions)),
    index: sightings.findIndex((s) => s.pieceId === looked.pieceId),
  };
}

/** Where the frame of a plate lies that goes with a frame of the shot; undefined where it has none, or none yet. */
function plateUrl(document: ProjectDocument, layer: PlateLayer, frame: number): string | undefined {
  const footage = document.media.find((m) => m.id === layer.mediaId);
  const at = frame + layer.offsetFrames;
  if (!footage || at < 0 || at >= footage.frames || document.proxies[footage.id]?.state !== 'done') return undefined;
  const isAlpha = layer.channel === 'alpha' && hasAlpha(footage.pixelFormat);
  return isAlpha ? frameUrl(footage.id, at, 'alpha') : codesUrl(footage, at);
}

/** A frame of a shot as the engine reads it, with the shot's balance and the frames of the plates its stacks name. */
export function frameRefOf(document: ProjectDocument, shot: Shot, media: Media, frame: number): FrameRef {
  const plates: Record<string, string> = {};
  const ofShot = document.sightings.filter((s) => s.value.shotId === shot.id);
  for (const layer of ofShot.flatMap((s) => platesOf(s.value.layers))) {
    const url = plateUrl(document, layer, frame);
    if (url) plates[plateId(layer)] = url;
  }
  return {
    url: codesUrl(media, Math.min(frame, media.frames - 1)),
    encoding: shot.encoding,
    fullWidth: media.width,
    sharesChroma: sharesChroma(media),
    balance: balanceOf(shot),
    plates,
  };
}

/** A frame with where the masks lie that layers, as they are on it, were carried to. */
export function withCarried(ref: FrameRef, document: ProjectDocument, layers: readonly Layer[]): FrameRef {
  const from = carriedOf(layers);
  if (from.length === 0) return ref;
  const { id } = document.project.value;
  return { ...ref, carried: Object.fromEntries(from.map((f) => [carriedId(f), carriedUrl(id, f.runId, f.frame)])) };
}

/** A layer of a stack as it is on a frame, with what it was carried to. */
export const layerOn = (document: ProjectDocument, layer: Layer, frame: number, motions: Motions) =>
  layerAt(withFound([layer], document.carried)[0]!, frame, motions);

/** What lies on a frame; `steady: false` leaves the frames around it out (quicker, while a hand moves). */
export function frameSceneAt(looked: Looked, frame: number, steady = true): FrameScene {
  const { document, shot, media } = looked;
  const span = framesOf(shot, media);
  const at = (f: number) => {
    const renders = rendersOn(looked, f);
    const stacks = renders.sightings.flatMap((s) => s.layers);
    return { frame: withCarried(frameRefOf(document, shot, media, f), document, stacks), ...renders };
  };
  const now = at(frame);
  const reach = steady ? Math.max(0, ...now.sightings.map((s) => s.steadyFrames ?? 0)) : 0;
  const around = Array.from({ length: 2 * reach + 1 }, (_, k) => k - reach)
    .filter((off) => off !== 0 && frame + off === within(span, frame + off))
    .map((off) => {
      const { index: _index, ...near } = at(frame + off);
      return { off, ...near };
    });
  return { ...now, ...(around.length > 0 && { around }) };
}

/** The scene with the recolour of the piece in hand, or of all, left out; mattes stay. */
export function withoutRecolour(scene: FrameScene, off: RecolourOff): FrameScene {
  if (off === 'none') return scene;
  const sightings = scene.sightings.map((s, i) =>
    off === 'all' || i === scene.index ? { ...s, program: NEUTRAL_PROGRAM, spill: undefined } : s,
  );
  return { ...scene, sightings };
}
