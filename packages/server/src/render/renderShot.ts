import { mkdir, rename, rm } from 'node:fs/promises';
import { frameCount, timecodeAfter, type Preset, type ReadBack, type Span } from '@mellow/contract';
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
import { soundInput } from '../media/sound.ts';
import type { MediaStore } from '../media/store.ts';
import { openPlates } from './plates.ts';
import { OUTPUTS } from './presets.ts';
import type { Outgoing, Samples } from './presets/output.ts';
import type { RenderPool } from './renderPool.ts';
import type { FrameTask } from './renderProtocol.ts';
import type { FrameSink, PictureSink } from './sinks/frameSink.ts';
import { pictureSink } from './sinks/pictureSink.ts';
import { stillsIn } from './stills.ts';
import { withAround } from './window.ts';

export interface ShotRender {
  media: StoredMedia;
  /** First and last frame, both included. */
  span: Span;
  encoding: Encoding;
  sightings: readonly AnimatedSighting[];
  motions: Motions;
  balance?: Balance | undefined;
  /** What the result is seen through; left out: nothing. */
  look?: Look | undefined;
  /** Names of the pieces of the sightings, fit for file names and all different. */
  pieces: readonly string[];
  preset: Preset;
  /** What is written over the picture of a review file; left out: nothing. */
  burnIn?: string | undefined;
  /** Folder of the delivery, made here; it holds only finished work once this returns. */
  folder: string;
  fileName: string;
}

const TAKES_FLOATS: ReadonlySet<Samples> = new Set(['float', 'half']);

/** The footage as it goes out: the frames of the shot, under their own numbers and timecode. */
function outgoing(store: MediaStore, { media: stored, span, burnIn }: ShotRender): Outgoing {
  const { media } = stored;
  const timecode = media.timecode && timecodeAfter(media.timecode, media.fps, span.from);
  const sound = soundInput(store, stored, span);
  return {
    ...media,
    sound,
    burnIn,
    frames: frameCount(span),
    firstFrame: span.from,
    timecode: timecode || media.timecode,
  };
}

interface Opened {
  sink: FrameSink<unknown>;
  /** Gives what the sink takes. */
  render: (task: FrameTask) => Promise<unknown>;
  /** Reads what was written; left out: it is not read. */
  readBack?: PictureSink['readBack'];
}
/** Where the frames of a preset go, and how they are made. */
async function opened(pool: RenderPool, store: MediaStore, job: ShotRender, folder: string): Promise<Opened> {
  const preset = OUTPUTS[job.preset];
  const sinkJob = { media: outgoing(store, job), folder, fileName: job.fileName, pieces: job.pieces };
  if (preset.what === 'mattes') {
    const sink = await preset.open(sinkJob, preset.framesIn(folder));
    return { sink: sink as FrameSink<unknown>, render: (task) => pool.mattes(task) };
  }
  const encoding = preset.encodingOf(job.encoding);
  const as: RenderAs = { encoding, samples: TAKES_FLOATS.has(preset.samples) ? 'float' : 'as the source' };
  const sink = await pictureSink(preset, encoding, sinkJob);
  return {
    sink: sink as FrameSink<unknown>,
    render: (task) => pool.render({ ...task, as, look: job.look, withAlpha: preset.samples === '16 bit, alpha' }),
    readBack: sink.readBack,
  };
}

/**
 * Decodes, renders and encodes a shot, frame by frame and in order: no more frames are in memory than threads want.
 * It is written under a name of its own, read back, and renamed when that is well: half a file is never taken for a
 * finished one. Throws where the file is not what was rendered. Mattes are not read back.
 */
export async function renderShot(
  db: Queryable,
  store: MediaStore,
  pool: RenderPool,
  job: ShotRender,
  onFrame: (done: number) => void,
  signal: AbortSignal,
): Promise<ReadBack | undefined> {
  const part = `${job.folder}.part`;
  await rm(part, { recursive: true, force: true });
  await mkdir(stillsIn(part), { recursive: true });
  const { sink, render, readBack } = await opened(pool, store, job, part);
  const stop = () => sink.stop();
  signal.addEventListener('abort', stop);
  let done = 0;
  const write = async (frame: unknown) => {
    await sink.write(frame);
    onFrame(++done);
  };
  const plates = await openPlates(db, store, job.sightings, job.media.media, signal);
  try {
    const inFlight: Promise<unknown>[] = [];
    const reach = Math.max(0, ...job.sightings.map((s) => s.steadyFrames ?? 0));
    const task = async (at: number) => ({
      sightings: job.sightings.map((s) => sightingAt(s, at, job.motions)),
      plates: await plates.frame(at),
    });
    for await (const { at: _at, ...frame } of withAround(
      decodeFrames(store, job.media, { signal, span: job.span }),
      reach,
      task,
      job.span.from,
    )) {
      inFlight.push(render({ ...frame, encoding: job.encoding, scale: 1, balance: job.balance }));
      if (inFlight.length > pool.size) await write(await inFlight.shift()!);
    }
    for (const last of inFlight) await write(await last);
    await sink.end();
    signal.throwIfAborted();
    const due = frameCount(job.span);
    if (done !== due) throw new Error(`${done} of ${due} frames were decoded`);
    const found = await readBack?.(signal);
    await rm(job.folder, { recursive: true, force: true });
    await rename(part, job.folder);
    return found;
  } finally {
    signal.removeEventListener('abort', stop);
    stop();
    await plates.close();
    await rm(part, { recursive: true, force: true });
  }
}
