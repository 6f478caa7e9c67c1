import { once } from 'node:events';
import { FfmpegFailed, spawnEncoder } from '../../media/ffmpeg.ts';

/** An ffmpeg that reads raw frames. */
export class FfmpegPipe {
  readonly #child: ReturnType<typeof spawnEncoder>;
  readonly #closed: Promise<number | null>;
  #stderr = '';

  constructor(args: string[]) {
    this.#child = spawnEncoder(args);
    this.#child.stderr.on('data', (d: Buffer) => (this.#stderr = (this.#stderr + d.toString()).slice(-4000)));
    // a broken pipe is told by the exit code and stderr, which say more
    this.#child.stdin.on('error', () => undefined);
    this.#closed = new Promise((resolve) => this.#child.on('close', resolve));
  }
  /** Throws FfmpegFailed when it has ended. */
  async write(planes: readonly Uint8Array[]): Promise<void> {
    for (const plane of planes)
      if (!this.#child.stdin.write(plane)) await Promise.race([this.#drained(), this.#closed]);
    if (this.#child.exitCode !== null) throw new FfmpegFailed(this.#stderr);
  }
  /** A pipe that breaks is no reason of its own: ffmpeg has ended, and has said why. */
  async #drained(): Promise<void> {
    await once(this.#child.stdin, 'drain').catch(() => this.#closed);
  }
  async end(): Promise<void> {
    this.#child.stdin.end();
    if ((await this.#closed) !== 0) throw new FfmpegFailed(this.#stderr);
  }
  stop(): void {
    this.#child.kill('SIGKILL');
  }
}

/** The samples of a plane, as they lie in memory. */
export const bytesOf = ({ buffer, byteOffset, byteLength }: ArrayBufferView): Buffer =>
  Buffer.from(buffer as ArrayBuffer, byteOffset, byteLength);

/**
 * A single-precision number rounded to the 11 significant bits of a half float: ffmpeg cuts the others off. After
 * Veltkamp's splitting (T. J. Dekker, A floating-point technique for extending the available precision, 1971).
 */
export function toElevenBits(value: number): number {
  const much = Math.fround(value * (2 ** 13 + 1));
  const rounded = Math.fround(much - Math.fround(much - value));
  return Number.isFinite(rounded) ? rounded : value;
}

/** 16-bit codes of values from 0 to 1, rounded; what lies past is cut off. */
export function codes16(values: Float32Array): Uint16Array {
  const codes = new Uint16Array(values.length);
  for (let i = 0; i < codes.length; i++) codes[i] = Math.round(Math.min(Math.max(values[i]!, 0), 1) * 65535);
  return codes;
}
