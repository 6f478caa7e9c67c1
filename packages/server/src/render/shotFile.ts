import { mkdir, readFile, rename, rm } from 'node:fs/promises';
import { frameCount, timecodeAfter, type ReadBack } from '@mellow/contract';
import type { AnimatedSighting } from '@mellow/core';
import { soundInput } from '../media/sound.ts';
import { partOf } from '../media/leftovers.ts';
import type { MediaStore } from '../media/store.ts';
import type { Turn } from '../media/turns.ts';
import { OUTPUTS } from './presets.ts';
import type { Outgoing } from './presets/output.ts';
import type { ShotRender } from './renderShot.ts';
import type { RenderPool } from './renderPool.ts';
import type { FrameSink } from './sinks/frameSink.ts';
import type { PackedFrame } from './sinks/packed.ts';
import { pictureSink } from './sinks/pictureSink.ts';
import { stillsIn } from './stills.ts';

/** One of the files that a render of a shot becomes: the shot in one colourway. */
export interface WantedFile {
  /** The shot's sightings in this colourway, or none at all: as filmed. */
  sightings: readonly AnimatedSighting[];
  /** What is written over the picture of a review file; left out: nothing. */
  burnIn?: string | undefined;
  /** Folder of the delivery, made here; it holds only finished work once the file has ended well. */
  folder: string;
  fileName: string;
  onFrame: (done: number) => void;
  signal: AbortSignal;
}

/** The footage as it goes out: the frames of the shot, under their own numbers and timecode. */
function outgoing(store: MediaStore, { media: stored, span }: ShotRender, burnIn: string | undefined): Outgoing {
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

/** Where the frames of a preset go. */
function sinkOf(
  store: MediaStore,
  pool: RenderPool,
  shot: ShotRender,
  { burnIn, fileName }: WantedFile,
  folder: string,
  turn: Turn,
): Promise<FrameSink> {
  const preset = OUTPUTS[shot.preset];
  const hashOfTiff = async (path: string) => pool.hashOfTiff(await readFile(path));
  const job = { media: outgoing(store, shot, burnIn), folder, fileName, pieces: shot.pieces, hashOfTiff, turn };
  if (preset.what === 'mattes') return preset.open(job, preset.framesIn(folder));
  return 'open' in preset ? preset.open(job) : pictureSink(preset, preset.encodingOf(shot.encoding), job);
}

/**
 * A file that is being written. It is written under a name of its own, read back, and renamed when that is well: half
 * a file is never taken for a finished one. What goes wrong with it is its own: files beside it go on.
 */
export class ShotFile {
  /** How it ends: with what reading it back has found. */
  readonly end: Promise<ReadBack>;
  isGoing = true;
  readonly #shot: ShotRender;
  readonly #wanted: WantedFile;
  readonly #part: string;
  #sink: FrameSink | undefined;
  #done = 0;
  #settle!: (found: ReadBack) => void;
  #reject!: (reason: unknown) => void;
  readonly #onAbort = () => void this.fail(this.#wanted.signal.reason);

  constructor(shot: ShotRender, wanted: WantedFile) {
    this.#shot = shot;
    this.#wanted = wanted;
    this.#part = partOf(wanted.folder);
    this.end = new Promise((resolve, reject) => {
      this.#settle = resolve;
      this.#reject = reject;
    });
    // whoever waits for several may come to this one late
    this.end.catch(() => undefined);
    wanted.signal.addEventListener('abort', this.#onAbort);
  }
  get sightings(): readonly AnimatedSighting[] {
    return this.#wanted.sightings;
  }
  /** `turn`: of its encoder, which gives it back; where there comes to be none, it is given back here. */
  async open(store: MediaStore, pool: RenderPool, turn: Turn): Promise<void> {
    await this.#unlessItFails(async () => {
      this.#wanted.signal.throwIfAborted();
      await rm(this.#part, { recursive: true, force: true });
      await mkdir(stillsIn(this.#part), { recursive: true });
      this.#sink = await sinkOf(store, pool, this.#shot, this.#wanted, this.#part, turn);
      // it may have been cancelled meanwhile
      if (!this.isGoing) await this.#clear();
    });
    if (!this.#sink) turn.giveBack();
  }
  async write(frame: PackedFrame): Promise<void> {
    await this.#unlessItFails(async () => {
      await this.#sink!.write(frame);
      this.#wanted.onFrame(++this.#done);
    });
  }
  /** All frames have been given: ends the file, reads it back and puts it where it belongs. */
  async finish(): Promise<void> {
    await this.#unlessItFails(async () => {
      const { signal, folder } = this.#wanted;
      await this.#sink!.end();
      signal.throwIfAborted();
      const due = frameCount(this.#shot.span);
      if (this.#done !== due) throw new Error(`${this.#done} of ${due} frames were decoded`);
      const found = await this.#sink!.readBack(signal);
      await rm(folder, { recursive: true, force: true });
      await rename(this.#part, folder);
      this.#leave();
      this.#settle(found);
    });
  }
  /** Ends it as it stands and leaves nothing behind. */
  async fail(reason: unknown): Promise<void> {
    if (!this.isGoing) return;
    this.#leave();
    await this.#clear();
    this.#reject(reason);
  }
  async #clear(): Promise<void> {
    this.#sink?.stop();
    // what it failed of may keep it from being removed, too
    await rm(this.#part, { recursive: true, force: true }).catch(() => undefined);
  }
  #leave(): void {
    this.isGoing = false;
    this.#wanted.signal.removeEventListener('abort', this.#onAbort);
  }
  async #unlessItFails(act: () => Promise<void>): Promise<void> {
    if (!this.isGoing) return;
    try {
      await act();
    } catch (error) {
      await this.fail(error);
    }
  }
}
