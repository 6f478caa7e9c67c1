import { Worker } from 'node:worker_threads';
import type { TrackedFrame } from '@mellow/core';
import type { Answer, Request, SetUp, Step, WarmUp } from './trackProtocol.ts';

const THREAD = new URL('./trackThread.mjs', import.meta.url);
type Answered = Extract<Answer, { ok: true }>;

/** A tracker in a thread of its own, so that the server goes on answering. */
export class TrackThread {
  readonly #worker: Worker;
  readonly #waiting = new Map<number, { resolve: (answer: Answered) => void; reject: (error: Error) => void }>();
  #next = 0;
  /** Why it answers no more; set once it has ended. */
  #ended: Error | undefined;

  /** `thread`: the module that answers requests; another one than the tracker's is for tests. */
  constructor(thread = THREAD) {
    this.#worker = new Worker(thread);
    this.#worker.on('message', (answer: Answer) => {
      const call = this.#waiting.get(answer.id);
      this.#waiting.delete(answer.id);
      if (answer.ok) call?.resolve(answer);
      else call?.reject(new Error(answer.message));
    });
    this.#worker.on('error', (error) => this.#end(error));
    this.#worker.on('exit', (code) => this.#end(new Error(`the tracking thread ended (${code})`)));
  }
  /** Whoever waits for an answer hears that none will come, and so does whoever asks later. */
  #end(why: Error): void {
    this.#ended ??= why;
    for (const call of this.#waiting.values()) call.reject(this.#ended);
    this.#waiting.clear();
  }
  get isAlive(): boolean {
    return this.#ended === undefined;
  }
  #ask(request: SetUp | Step | WarmUp): Promise<Answered> {
    if (this.#ended) return Promise.reject(this.#ended);
    const id = this.#next++;
    return new Promise((resolve, reject) => {
      this.#waiting.set(id, { resolve, reject });
      this.#worker.postMessage({ ...request, id } satisfies Request);
    });
  }
  /** Answers the error in pixels that noise alone leaves; Infinity for a blank region. */
  async setUp(request: Omit<SetUp, 'kind'>): Promise<number> {
    return (await this.#ask({ ...request, kind: 'set up' })).textureErrorPx!;
  }
  async step(request: Omit<Step, 'kind'>): Promise<TrackedFrame> {
    return (await this.#ask({ ...request, kind: 'step' })).found!;
  }
  warmUp = async (): Promise<void> => void (await this.#ask({ kind: 'warm up' }));
  close = () => this.#worker.terminate();
  /** Lets the process end while the thread only waits. */
  unref = () => this.#worker.unref();
}

/** Threads that stand ready: one is started ahead, since loading takes longer than tracking the first frame. */
const ready: TrackThread[] = [];
export function readyTrackThread(): void {
  if (ready.some((t) => t.isAlive)) return;
  const thread = new TrackThread();
  thread.unref();
  ready.push(thread);
  // one that cannot even do that says so when it is used
  thread.warmUp().catch(() => undefined);
}
/** A thread that stands ready, or a new one; one that has ended meanwhile is passed over. */
export function takeTrackThread(): TrackThread {
  for (let thread = ready.pop(); thread; thread = ready.pop()) if (thread.isAlive) return thread;
  return new TrackThread();
}
/** Gives a thread back for the next track; a spare one too many is ended. */
export async function giveBackTrackThread(thread: TrackThread): Promise<void> {
  if (!thread.isAlive) return;
  if (ready.length > 0) return void (await thread.close());
  ready.push(thread);
}
export const closeReadyTrackThreads = async (): Promise<void> =>
  void (await Promise.all(ready.splice(0).map((t) => t.close())));
