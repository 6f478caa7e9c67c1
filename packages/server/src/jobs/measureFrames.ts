// A sighting measured on every frame of its shot, in some colourways.
import {
  balanceOf,
  frameCount,
  proxySize,
  sharesChroma,
  type FrameMeasurement,
  type Shot,
  type ShotRenderSighting,
  type Span,
} from '@mellow/contract';
import { looksFurther, sightingAt, type Motions, type SightingMeasurement } from '@mellow/core';
import { breather } from '../breather.ts';
import type { StoredMedia } from '../db/media.ts';
import type { Queryable } from '../db/pool.ts';
import { decodeFrames } from '../media/decode.ts';
import { measuredFrames } from '../media/keptFrames.ts';
import type { MediaStore } from '../media/store.ts';
import { carriedMasks } from '../render/carriedMasks.ts';
import { matteKey, measuredMattes } from '../render/keptMattes.ts';
import { measuredSamples, sampleKey } from '../render/keptSamples.ts';
import { openPlates } from '../render/plates.ts';
import { sharedRenderPool } from '../render/renderPool.ts';
import type { AgainTask } from '../render/renderProtocol.ts';
import { openSeen } from '../render/seenFrames.ts';
import { withAround } from '../render/window.ts';
import { whenQuiet } from './interactive.ts';

/**
 * A piece's mean colour does not need every pixel: at this width a piece still has thousands of them, and the ribbon
 * follows an edit four times as fast as at proxy size. They are picked out of the full picture: averaged, their grain
 * would be cut off less by the ends of the encoding than it is in the render.
 */
export const MEASURE_WIDTH = 480;
/** So many frames are under way at once. */
const UNDER_WAY = 4;
/** So many frames are measured again in one go. */
const AT_A_TIME = 12;

/** What is measured. */
export interface Measuring {
  shot: Shot;
  media: StoredMedia;
  span: Span;
  motions: Motions;
  /** Per colourway the shot's sightings in their order, the one that is measured as the last: of the same mattes. */
  variants: readonly (readonly ShotRenderSighting[])[];
}
interface Results {
  /** Per colourway, in order; frames on which there is nothing to measure are left out. */
  frames: FrameMeasurement[][];
  /** How many were looked at. */
  done: number;
}

/**
 * Measures by what is kept of the frames where that is all that is needed, otherwise from 16-bit frames scaled down.
 * `tell` is told how many are done. Rejects when the signal is aborted.
 */
export async function measureFrames(
  db: Queryable,
  store: MediaStore,
  of: Measuring,
  signal: AbortSignal,
  tell: (done: number) => void,
): Promise<Results> {
  const frames = of.variants.map((): FrameMeasurement[] => []);
  let done = 0;
  const take = (at: number, colourways: (SightingMeasurement | undefined)[]) => {
    done++;
    colourways.forEach((m, c) => m && frames[c]!.push({ frame: at, ...m }));
    tell(done);
  };
  const kept = await keptOf(of);
  if (kept) await measureAgain(of, kept, signal, take);
  else await measureDecoded(db, store, of, signal, take);
  for (const own of frames) own.sort((a, b) => a.frame - b.frame);
  return { frames, done };
}
type Take = (at: number, colourways: (SightingMeasurement | undefined)[]) => void;

/** What is known of a shot's frames before they are decoded. */
function knownOf({ shot, media, span, motions, variants }: Measuring) {
  const { width, height, scale } = proxySize(media.media.width, media.media.height, MEASURE_WIDTH);
  const what = JSON.stringify([media, width, height, span.from]);
  return {
    size: { width, height },
    what,
    picture: (at: number) => `${what} ${at}`,
    footage: { encoding: shot.encoding, scale, balance: balanceOf(shot), sharesChroma: sharesChroma(media.media) },
    rendersAt: (at: number) => variants.map((renders) => renders.map((r) => sightingAt(r, at, motions))),
    /** How far the mattes look to either side. */
    reach: Math.max(0, ...variants[0]!.map((r) => r.steadyFrames ?? 0)),
    index: variants[0]!.length - 1,
  };
}

interface Kept {
  at: number;
  frame: AgainTask['frames'][number];
}
/** What is kept of all frames; undefined where that of one is missing, or a recolour looks further than it. */
async function keptOf(of: Measuring): Promise<Kept[] | undefined> {
  const { picture, footage, rendersAt, reach, index } = knownOf(of);
  const { from, to } = of.span;
  const breathe = breather();
  const kept: Kept[] = [];
  for (let at = from; at <= to; at++) {
    const now = rendersAt(at);
    if (now.some((renders) => renders.some(looksFurther))) return undefined;
    const around = [];
    for (let near = Math.max(at - reach, from); near <= Math.min(at + reach, to); near++)
      if (near !== at) around.push({ off: near - at, frame: { sightings: rendersAt(near)[0]! } });
    const key = sampleKey(picture(at), { ...footage, sightings: now[0]!, around }, index);
    const sample = key && measuredSamples.get(key);
    if (!sample) return undefined;
    kept.push({ at, frame: { sample, programs: now.map((renders) => renders[index]!.program) } });
    await breathe();
  }
  return kept;
}

async function measureAgain(of: Measuring, kept: readonly Kept[], signal: AbortSignal, take: Take): Promise<void> {
  const { encoding, balance } = knownOf(of).footage;
  const measure = async (some: readonly Kept[]) => {
    const frames = some.map((k) => k.frame);
    const measured = await sharedRenderPool().measureAgain({ encoding, balance, frames });
    some.forEach(({ at }, k) => take(at, measured[k]!));
  };
  const underWay = atMost(2);
  for (let k = 0; k < kept.length; k += AT_A_TIME) {
    await whenQuiet(signal);
    signal.throwIfAborted();
    await underWay.add(measure(kept.slice(k, k + AT_A_TIME)));
  }
  await underWay.all();
}

async function measureDecoded(
  db: Queryable,
  store: MediaStore,
  of: Measuring,
  signal: AbortSignal,
  take: Take,
): Promise<void> {
  const { media, span, variants } = of;
  const { size, what, picture, footage, rendersAt, reach, index } = knownOf(of);
  const plates = await openPlates(db, store, variants[0]!, size, signal);
  const seen = openSeen(store, media, variants[0]!, span, signal);
  const task = async (at: number) => {
    const sightings = rendersAt(at)[0]!;
    const carried = await carriedMasks(db, sightings);
    return { sightings, seen: await seen.next(), plates: await plates.frame(at), carried };
  };
  const decode = (from: number) =>
    decodeFrames(store, media, { size, signal, by: 'picked', span: { from: span.from + from, to: span.to } });
  const underWay = atMost(UNDER_WAY);
  try {
    const decoded = measuredFrames.frames(what, frameCount(span), decode);
    for await (const { at, ...frame } of withAround(decoded, reach, task, span.from)) {
      await whenQuiet(signal);
      const colourways = rendersAt(at).map((renders) => renders.map((r) => r.program));
      // its memory stays here, as where there are frames around it: it is kept
      const asked = { ...frame, ...footage, around: frame.around ?? [] };
      const keys = asked.sightings.map((_, k) => matteKey(picture(at), asked, k));
      const mattes = keys.map((key) => (key ? measuredMattes.get(key) : undefined));
      const measure = async () => {
        // the frames around are for what mattes are still to be made
        const around = mattes.every(Boolean) ? [] : asked.around;
        const measured = await sharedRenderPool().measure({ ...asked, around, index, colourways, mattes });
        for (const [k, matte] of measured.mattes.entries()) if (matte && keys[k]) measuredMattes.set(keys[k], matte);
        const key = measured.sample && sampleKey(picture(at), asked, index);
        if (key && measured.sample) measuredSamples.set(key, measured.sample);
        take(at, measured.colourways);
      };
      await underWay.add(measure());
    }
    await underWay.all();
  } finally {
    await seen.close();
    await plates.close();
  }
}

/** Work of which no more than so much is under way; of what fails only the first that is waited for is told. */
function atMost(most: number) {
  const pending: Promise<void>[] = [];
  return {
    add: async (work: Promise<void>) => {
      work.catch(() => undefined);
      pending.push(work);
      if (pending.length >= most) await pending.shift();
    },
    all: () => Promise.all(pending),
  };
}
