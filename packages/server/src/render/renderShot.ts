import { once } from 'node:events';
import { mkdir, rename, rm } from 'node:fs/promises';
import { dirname } from 'node:path';
import type { Preset } from '@mellow/contract';
import {
  sightingAt,
  type AnimatedSighting,
  type Balance,
  type CodePicture,
  type CodePlane,
  type Encoding,
  type Motions,
} from '@mellow/core';
import type { StoredMedia } from '../db/media.ts';
import type { Queryable } from '../db/pool.ts';
import { decodeFrames } from '../media/decode.ts';
import { FfmpegFailed, spawnEncoder } from '../media/ffmpeg.ts';
import type { MediaStore } from '../media/store.ts';
import { OUTPUTS } from './presets.ts';
import { openPlates } from './plates.ts';
import type { RenderPool } from './renderPool.ts';
import { stillArgs, stillsIn } from './stills.ts';
import { withAround } from './window.ts';

export interface ShotRender {
  media: StoredMedia;
  encoding: Encoding;
  sightings: readonly AnimatedSighting[];
  motions: Motions;
  balance?: Balance | undefined;
  preset: Preset;
  /** Folder of the delivery, made here; it holds only finished work once this returns. */
  folder: string;
  fileName: string;
}

/** 16-bit codes as raw bytes; float planes are clamped to 0..1 and rounded. */
function bytesOf(plane: CodePlane): Buffer {
  const codes =
    plane instanceof Uint16Array
      ? plane
      : Uint16Array.from(plane, (v) => Math.round(Math.min(Math.max(v, 0), 1) * 65535));
  return Buffer.from(codes.buffer, codes.byteOffset, codes.byteLength);
}

/**
 * Decodes, renders and encodes a shot, frame by frame and in order: no more frames are in memory than threads want.
 * It is written under a name of its own and renamed when complete, so half a file is never taken for a finished one.
 */
export async function renderShot(
  db: Queryable,
  store: MediaStore,
  pool: RenderPool,
  job: ShotRender,
  onFrame: (done: number) => void,
  signal: AbortSignal,
): Promise<void> {
  const part = `${job.folder}.part`;
  await rm(part, { recursive: true, force: true });
  const preset = OUTPUTS[job.preset];
  const as = preset.encodingOf(job.encoding);
  const output = preset.path(part, job.fileName);
  await mkdir(dirname(output), { recursive: true });
  await mkdir(stillsIn(part), { recursive: true });
  const encoder = spawnEncoder([...preset.args(job.media.media, as, output), ...stillArgs(job.media.media, part)]);
  let stderr = '';
  encoder.stderr.on('data', (d: Buffer) => (stderr = (stderr + d.toString()).slice(-4000)));
  // a broken pipe is told by the exit code and stderr, which say more
  encoder.stdin.on('error', () => undefined);
  const closed = new Promise<number | null>((resolve) => encoder.on('close', resolve));
  const stop = () => encoder.kill('SIGKILL');
  signal.addEventListener('abort', stop);
  let done = 0;
  const write = async (picture: CodePicture) => {
    for (const plane of [picture.g, picture.b, picture.r])
      if (!encoder.stdin.write(bytesOf(plane))) await Promise.race([once(encoder.stdin, 'drain'), closed]);
    if (encoder.exitCode !== null) throw new FfmpegFailed(stderr);
    onFrame(++done);
  };
  const plates = await openPlates(db, store, job.sightings, job.media.media, signal);
  try {
    const inFlight: Promise<CodePicture>[] = [];
    const reach = Math.max(0, ...job.sightings.map((s) => s.steadyFrames ?? 0));
    const task = async (at: number) => ({
      sightings: job.sightings.map((s) => sightingAt(s, at, job.motions)),
      plates: await plates.frame(at),
    });
    for await (const { at: _at, ...frame } of withAround(
      decodeFrames(store, job.media, undefined, signal),
      reach,
      task,
    )) {
      inFlight.push(pool.render({ ...frame, encoding: job.encoding, as, scale: 1, balance: job.balance }));
      if (inFlight.length > pool.size) await write(await inFlight.shift()!);
    }
    for (const last of inFlight) await write(await last);
    encoder.stdin.end();
    if ((await closed) !== 0) throw new FfmpegFailed(stderr);
    signal.throwIfAborted();
    if (done !== job.media.media.frames) throw new Error(`${done} of ${job.media.media.frames} frames were decoded`);
    await rm(job.folder, { recursive: true, force: true });
    await rename(part, job.folder);
  } finally {
    signal.removeEventListener('abort', stop);
    stop();
    await plates.close();
    await rm(part, { recursive: true, force: true });
  }
}
