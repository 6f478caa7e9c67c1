import { once } from 'node:events';
import { FfmpegFailed, spawnEncoder, unlessItHangs, type Encoder } from '../../media/ffmpeg.ts';
import type { Turn } from '../../media/turns.ts';

/** An ffmpeg that reads raw frames. */
export class FfmpegPipe {
  readonly #child: Encoder;
  readonly #closed: Promise<number | null>;
  readonly #mostMs: number | undefined;
  #stderr = '';

  private constructor(child: Encoder, mostMs?: number) {
    this.#child = child;
    this.#mostMs = mostMs;
    this.#child.stderr.on('data', (d: Buffer) => (this.#stderr = (this.#stderr + d.toString()).slice(-4000)));
    // a broken pipe is told by the exit code and stderr, which say more
    this.#child.stdin.on('error', () => undefined);
    this.#closed = new Promise((resolve) => this.#child.on('close', resolve));
  }
  /**
   * `turn`: of an encoder that waits for frames for long. Left out: all that it reads is there already. `mostMs`: how
   * long it may take for what it is given, and for its end.
   */
  static async open(args: string[], turn?: Turn, mostMs?: number): Promise<FfmpegPipe> {
    return new FfmpegPipe(await spawnEncoder(args, turn), mostMs);
  }
  /** Throws FfmpegFailed when it has ended. */
  async write(planes: readonly Uint8Array[]): Promise<void> {
    for (const plane of planes)
      if (!this.#child.stdin.write(plane)) await this.#unlessItHangs(Promise.race([this.#drained(), this.#closed]));
    if (this.#child.exitCode !== null) throw new FfmpegFailed(this.#stderr);
  }
  /** A pipe that breaks is no reason of its own: ffmpeg has ended, and has said why. */
  async #drained(): Promise<void> {
    await once(this.#child.stdin, 'drain').catch(() => this.#closed);
  }
  async end(): Promise<void> {
    this.#child.stdin.end();
    if ((await this.#unlessItHangs(this.#closed)) !== 0) throw new FfmpegFailed(this.#stderr);
  }
  #unlessItHangs<T>(work: Promise<T>): Promise<T> {
    return unlessItHangs(work, () => this.stop(), this.#mostMs);
  }
  stop(): void {
    this.#child.kill('SIGKILL');
  }
}
