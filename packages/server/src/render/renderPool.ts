import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import type { CodePicture } from '@mellow/core';
import type { Answer, FrameTask, Measured, MeasureTask, Request } from './renderProtocol.ts';

interface Waiting {
  resolve: (answer: Extract<Answer, { ok: true }>) => void;
  reject: (error: Error) => void;
}

/** Render threads, one a core, each frame going to the one with the least to do. */
export class RenderPool {
  readonly #threads: { worker: Worker; waiting: Map<number, Waiting> }[];
  #next = 0;

  constructor(size = Math.max(availableParallelism(), 1)) {
    this.#threads = Array.from({ length: size }, () => this.#start());
  }

  #start() {
    const worker = new Worker(new URL('./renderThread.mjs', import.meta.url));
    const waiting = new Map<number, Waiting>();
    worker.unref();
    worker.on('message', (answer: Answer) => {
      const call = waiting.get(answer.id);
      waiting.delete(answer.id);
      if (answer.ok) call?.resolve(answer);
      else call?.reject(new Error(answer.message));
    });
    worker.on('error', (error) => {
      for (const call of waiting.values()) call.reject(error);
      waiting.clear();
    });
    return { worker, waiting };
  }

  #ask(request: Request): Promise<Extract<Answer, { ok: true }>> {
    const thread = this.#threads.reduce((best, each) => (each.waiting.size < best.waiting.size ? each : best));
    return new Promise((resolve, reject) => {
      thread.waiting.set(request.id, { resolve, reject });
      // planes of one decoded frame share a buffer; it moves to the thread, unless frames near this one need it too
      const buffers = request.around
        ? []
        : new Set([request.codes.r.buffer, request.codes.g.buffer, request.codes.b.buffer]);
      thread.worker.postMessage(request, [...buffers] as ArrayBuffer[]);
    });
  }

  /** Renders a frame; the picture handed in is gone afterwards (its memory moves to the thread) unless there are frames around it. */
  async render(task: FrameTask): Promise<CodePicture> {
    return (await this.#ask({ ...task, kind: 'render', id: this.#next++ })).codes!;
  }
  /** Measures the sighting at `index`, once per colourway; the picture handed in is gone afterwards, as for `render`. */
  async measure(task: MeasureTask): Promise<Measured[]> {
    return (await this.#ask({ ...task, kind: 'measure', id: this.#next++ })).measured!;
  }
  get size(): number {
    return this.#threads.length;
  }
  async close(): Promise<void> {
    await Promise.all(this.#threads.map(({ worker }) => worker.terminate()));
  }
}

let shared: RenderPool | undefined;
/** The process's one pool: jobs that run at once share the cores. Started when first needed. */
export const sharedRenderPool = (): RenderPool => (shared ??= new RenderPool());
export async function closeSharedRenderPool(): Promise<void> {
  await shared?.close();
  shared = undefined;
}
