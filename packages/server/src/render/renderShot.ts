import { sharesChroma, type Preset, type ReadBack, type Span } from '@mellow/contract';
import {
  sightingAt,
  type AnimatedSighting,
  type Balance,
  type Encoding,
  type Look,
  type Motions,
  type RenderAs,
} from '@mellow/core';
import type { StoredMedia } from '../db/media.ts';
import type { Queryable } from '../db/pool.ts';
import { decodeFrames } from '../media/decode.ts';
import { encoderTurn, furtherEncoderTurn } from '../media/ffmpegTurns.ts';
import { measuredFrames } from '../media/keptFrames.ts';
import type { MediaStore } from '../media/store.ts';
import { carriedMasks } from './carriedMasks.ts';
import { measuredMattes } from './keptMattes.ts';
import { measuredSamples } from './keptSamples.ts';
import { openPlates } from './plates.ts';
import { openSeen } from './seenFrames.ts';
import { OUTPUTS } from './presets.ts';
import { withAlpha, type Samples } from './presets/output.ts';
import type { RenderPool } from './renderPool.ts';
import type { FrameTask } from './renderProtocol.ts';
import { ShotFile, type WantedFile } from './shotFile.ts';
import type { PackedFrame } from './sinks/packed.ts';
import { withAround } from './window.ts';

/** What the files made of a shot at once have in common. */
export interface ShotRender {
  media: StoredMedia;
  /** First and last frame, both included. */
  span: Span;
  encoding: Encoding;
  motions: Motions;
  balance?: Balance | undefined;
  /** What the result is seen through; left out: nothing. */
  look?: Look | undefined;
  /** Names of the pieces of the sightings, fit for file names and all different. */
  pieces: readonly string[];
  preset: Preset;
}

const TAKES_FLOATS: ReadonlySet<Samples> = new Set(['float', 'float, alpha', 'half', 'half, alpha']);

/** What becomes of a frame, in as many colourways as are wanted: what a file's sink takes, for each. */
type Make = (task: FrameTask, colourways: readonly FrameTask['sightings'][]) => Promise<readonly PackedFrame[]>;
function maker(pool: RenderPool, { preset: name, encoding, look, pieces, media: { media } }: ShotRender): Make {
  const preset = OUTPUTS[name];
  // mattes are the same in every colourway
  if (preset.what === 'mattes') {
    const packing = preset.packing(pieces, media);
    return async (task, colourways) => {
      const mattes = await pool.mattes({ ...task, packing });
      return colourways.map(() => mattes);
    };
  }
  const { samples, isExact } = preset;
  const packing = 'open' in preset ? preset.packing : ({ as: 'planes', samples, isHashed: isExact } as const);
  const as: RenderAs = {
    encoding: preset.encodingOf(encoding),
    samples: TAKES_FLOATS.has(samples) ? 'float' : 'as the source',
  };
  const hasAlpha = withAlpha(samples);
  return (task, colourways) => pool.render({ ...task, colourways, as, look, packing, withAlpha: hasAlpha });
}

/**
 * Decodes a shot once and isolates its pieces once, and makes as many files of it as are wanted and as there may be
 * encoders at once (what is over comes after them, by the same way again): frame by frame and in order, no more frames
 * in memory than threads want. How each file ends, in their order; one that fails or is cancelled leaves the others
 * alone.
 */
export function renderShot(
  db: Queryable,
  store: MediaStore,
  pool: RenderPool,
  shot: ShotRender,
  wanted: readonly WantedFile[],
): Promise<ReadBack>[] {
  const files = wanted.map((file) => new ShotFile(shot, file));
  const none = new AbortController();
  const going = () => files.filter((file) => file.isGoing);
  for (const file of files)
    file.end.catch(() => {
      if (going().length === 0) none.abort(new Error('no file is wanted any more'));
    });
  const failAll = (error: unknown) => Promise.all(going().map((file) => file.fail(error)));
  const renderAll = async () => {
    for (let left = files; left.length > 0;) {
      const opened = await openFiles(store, pool, left);
      await renderFiles(db, store, pool, shot, left.slice(0, opened), none.signal);
      left = left.slice(opened);
    }
  };
  void renderAll().catch(failAll);
  return files.map((file) => file.end);
}

/** Opens as many of some files as there may be encoders now, the first when it is its turn; how many those are. */
async function openFiles(store: MediaStore, pool: RenderPool, files: readonly ShotFile[]): Promise<number> {
  let opened = 0;
  // one after the other: to begin a process takes a server of some size 20 ms, in which it answers nobody
  for (const file of files) {
    const turn = opened === 0 ? await encoderTurn() : furtherEncoderTurn();
    if (!turn) break;
    await file.open(store, pool, turn);
    opened++;
  }
  return opened;
}

/** Renders opened files. Throws what is the fault of none of them: it would be the others' too. */
async function renderFiles(
  db: Queryable,
  store: MediaStore,
  pool: RenderPool,
  shot: ShotRender,
  files: readonly ShotFile[],
  signal: AbortSignal,
): Promise<void> {
  const make = maker(pool, shot);
  // the mattes are those of any colourway in which there are pieces
  const isolated: readonly AnimatedSighting[] = files.find((file) => file.sightings.length > 0)?.sightings ?? [];
  const reach = Math.max(0, ...isolated.map((s) => s.steadyFrames ?? 0));
  const plates = await openPlates(db, store, isolated, shot.media.media, signal);
  const seen = openSeen(store, shot.media, isolated, shot.span, signal);
  const task = async (at: number) => {
    const sightings = isolated.map((s) => sightingAt(s, at, shot.motions));
    const carried = await carriedMasks(db, sightings);
    return { sightings, seen: await seen.next(), plates: await plates.frame(at), carried };
  };
  try {
    signal.throwIfAborted();
    // of long or large footage a render needs what memory there is
    measuredFrames.clear();
    measuredMattes.clear();
    measuredSamples.clear();
    const inFlight: { of: readonly ShotFile[]; frames: Promise<readonly PackedFrame[]> }[] = [];
    const write = async ({ of, frames }: (typeof inFlight)[number]) => {
      const made = await frames;
      await Promise.all(of.map((file, i) => file.write(made[i]!)));
    };
    const decoded = decodeFrames(store, shot.media, { signal, span: shot.span });
    for await (const { at, ...frame } of withAround(decoded, reach, task, shot.span.from)) {
      const of = files.filter((file) => file.isGoing);
      if (of.length === 0) break;
      const colourways = of.map((file) => file.sightings.map((s) => sightingAt(s, at, shot.motions)));
      const { encoding, balance, media } = shot;
      const footage = { encoding, balance, sharesChroma: sharesChroma(media.media) };
      inFlight.push({ of, frames: make({ ...frame, ...footage, scale: 1 }, colourways) });
      if (inFlight.length > pool.size) await write(inFlight.shift()!);
    }
    for (const last of inFlight) await write(last);
    for (const file of files) await file.finish();
  } finally {
    await seen.close();
    await plates.close();
  }
}
