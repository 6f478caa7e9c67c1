// Frames that ffmpeg decodes, as raw bytes. Whoever reads them may take hours for it, and hold several decoders at
// once: one that others wait for is ended, and begun anew where it was when its next frame is wanted.
import { FfmpegFailed, spawnDecoder, unlessItHangs, type Decoder } from './ffmpeg.ts';
import type { Turn } from './turns.ts';

export interface FramesFrom {
  /** ffmpeg's input and filters for what comes from a frame on, counted from the first that is wanted. */
  from: (frame: number) => { input: string[]; filters: string };
  /** ffmpeg's name of the samples. */
  format: string;
  bytesPerFrame: number;
  /** How many frames there are to come. */
  due: number;
  /** Whether ffmpeg is to end with them, though there may be more. */
  isPart: boolean;
  /** How long a frame may take; left out: an hour. */
  mostMs?: number;
}

/** How often it is looked whether somebody waits. */
const LOOK_MS = 100;
/** A decoder whose next frame is waited for keeps its turn for so long. */
const KEEPS_MS = 2000;
/** And for so many times as long as it took to its first frame, so that beginning anew is the lesser part of it. */
const KEEPS_BEGINNINGS = 4;

/** One run of a decoder, until it has ended or made room for others. */
class DecoderRun {
  madeRoom = false;
  /** Whether its next frame is waited for. */
  isAwaited = true;
  readonly stdout: Decoder['stdout'];
  readonly #decoder: Decoder;
  readonly #turn: Turn;
  readonly #ended: Promise<number | null>;
  readonly #begunMs = performance.now();
  readonly #look: NodeJS.Timeout;
  #firstFrameMs: number | undefined;
  #stderr = '';

  constructor({ decoder, turn }: { decoder: Decoder; turn: Turn }) {
    this.#decoder = decoder;
    this.#turn = turn;
    this.stdout = decoder.stdout;
    decoder.stderr.on('data', (d: Buffer) => (this.#stderr = (this.#stderr + d.toString()).slice(-4000)));
    this.#ended = new Promise((resolve) => decoder.on('close', resolve));
    this.#look = setInterval(() => this.#makeRoom(), LOOK_MS);
    decoder.once('exit', () => clearInterval(this.#look));
  }
  /** A frame has come whole. */
  hasFrame(): void {
    this.#firstFrameMs ??= performance.now();
  }
  /** Throws FfmpegFailed where it broke off by itself; true where it made room before its end. */
  async brokeOff(): Promise<boolean> {
    const code = await this.#ended;
    if (code !== 0 && !this.madeRoom) throw new FfmpegFailed(this.#stderr);
    return code !== 0;
  }
  readonly stop = (): void => {
    clearInterval(this.#look);
    this.#decoder.kill('SIGKILL');
  };
  #makeRoom(): void {
    if (this.#firstFrameMs === undefined) return;
    const keepsMs = KEEPS_BEGINNINGS * (this.#firstFrameMs - this.#begunMs);
    const heldMs = performance.now() - this.#begunMs;
    if (heldMs < Math.max(keepsMs, this.isAwaited ? KEEPS_MS : 0) || !this.#turn.isWanted()) return;
    this.madeRoom = true;
    this.stop();
  }
}

/**
 * Decoded frames in order, each in memory of its own. Reading slowly slows ffmpeg down. Throws FfmpegFailed where
 * decoding breaks off, or hangs.
 */
export async function* rawFrames(wanted: FramesFrom, signal?: AbortSignal): AsyncGenerator<Buffer> {
  let done = 0;
  for (let isWhole = false; !isWhole && done < wanted.due;) {
    signal?.throwIfAborted();
    const run = new DecoderRun(await spawnDecoder(argsFrom(wanted, done)));
    signal?.addEventListener('abort', run.stop);
    if (signal?.aborted) run.stop();
    const frames = framesOf(run.stdout, wanted.bytesPerFrame);
    try {
      for (;;) {
        const { value: frame, done: isOver } = await unlessItHangs(frames.next(), run.stop, wanted.mostMs);
        if (isOver) break;
        run.hasFrame();
        done++;
        run.isAwaited = false;
        yield frame;
        run.isAwaited = true;
      }
      signal?.throwIfAborted();
      isWhole = !(await run.brokeOff());
    } finally {
      signal?.removeEventListener('abort', run.stop);
      run.stop();
      // what the pipe still holds is let go
      frames.return(undefined).catch(() => undefined);
    }
  }
}

function argsFrom({ from, format, due, isPart }: FramesFrom, frame: number): string[] {
  const { input, filters } = from(frame);
  return [
    ...input,
    '-map',
    '0:v:0',
    '-fps_mode',
    'passthrough',
    '-vf',
    filters,
    ...(isPart ? ['-frames:v', String(due - frame)] : []),
    '-f',
    'rawvideo',
    '-pix_fmt',
    format,
    'pipe:1',
  ];
}

/** What comes through a pipe, cut into frames; what is over in the end is left out. */
async function* framesOf(pipe: AsyncIterable<Buffer>, bytesPerFrame: number): AsyncGenerator<Buffer, undefined> {
  // in memory of its own, not filled with zeros first: of a frame of 4K that takes 40 ms
  let frame = Buffer.allocUnsafeSlow(bytesPerFrame);
  let filled = 0;
  for await (const chunk of pipe) {
    for (let at = 0; at < chunk.length;) {
      const taken = Math.min(bytesPerFrame - filled, chunk.length - at);
      chunk.copy(frame, filled, at, at + taken);
      filled += taken;
      at += taken;
      if (filled < bytesPerFrame) continue;
      yield frame;
      frame = Buffer.allocUnsafeSlow(bytesPerFrame);
      filled = 0;
    }
  }
  return undefined;
}
