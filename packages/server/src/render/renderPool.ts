import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import type { AgainTask, MatteTask, Measured, MeasureTask, RenderTask, Request } from './renderProtocol.ts';
import type { PackedFrame } from './sinks/packed.ts';

const THREAD = fileURLToPath(new URL('./renderThread.mjs', import.meta.url));

/** Render threads, one a core. A thread that ends takes only its own frame along: another is started in its place. */
export class RenderPool {
  readonly #pool: Piscina;
  readonly size: number;

  /** `thread`: the module that answers requests; another one than the renderer's is for tests. */
  constructor(size = Math.max(availableParallelism(), 1), thread = THREAD) {
    this.size = size;
    this.#pool = new Piscina({
      filename: thread,
      minThreads: size,
      maxThreads: size,
      concurrentTasksPerWorker: 1,
    });
  }

  #ask<A>(request: Request): Promise<A> {
    const answer = this.#pool.run(request, { transferList: movedWith(request) }) as Promise<A>;
    // whoever asked for several frames at once is gone when an earlier one has failed
    answer.catch(() => undefined);
    return answer;
  }

  /**
   * Renders a frame, once per colourway; the picture handed in is gone afterwards (its memory moves to the thread)
   * unless there are frames around it.
   */
  render(task: RenderTask): Promise<PackedFrame[]> {
    return this.#ask({ ...task, kind: 'render' });
  }
  /** α of every sighting of a frame, steadied where it asks for it; the picture is gone then, as for `render`. */
  mattes(task: MatteTask): Promise<PackedFrame> {
    return this.#ask({ ...task, kind: 'mattes' });
  }
  /**
   * Measures the sighting at `index`, once per colourway; the picture handed in is gone afterwards, as for `render`.
   */
  measure(task: MeasureTask): Promise<Measured> {
    return this.#ask({ ...task, kind: 'measure' });
  }
  /** Of each frame what is measured per colourway. */
  measureAgain(task: AgainTask): Promise<Measured['colourways'][]> {
    return this.#ask({ ...task, kind: 'measure again' });
  }
  /** The hash of the planes that a TIFF of floats was made of; its bytes are gone afterwards. */
  hashOfTiff(file: Uint8Array): Promise<string> {
    return this.#ask({ kind: 'hash of TIFF', file });
  }
  close(): Promise<void> {
    return this.#pool.destroy();
  }
}

/** The memory that goes along with a request. */
function movedWith(request: Request): ArrayBuffer[] {
  if (request.kind === 'hash of TIFF') return [request.file.buffer as ArrayBuffer];
  if (request.kind === 'measure again' || request.around) return [];
  // planes of one decoded frame share a buffer; it moves to the thread, unless frames near this one need it too
  const { r, g, b } = request.codes;
  return [...new Set([r.buffer, g.buffer, b.buffer])] as ArrayBuffer[];
}

let shared: RenderPool | undefined;
/** The process's one pool: jobs that run at once share the cores. Started when first needed. */
export const sharedRenderPool = (): RenderPool => (shared ??= new RenderPool());
export async function closeSharedRenderPool(): Promise<void> {
  await shared?.close();
  shared = undefined;
}
