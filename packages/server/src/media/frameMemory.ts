/**
 * Memory for frames of one size, shared with the threads that work on them and used again once they are done with it.
 * New memory for each frame would be touched page by page, and V8 collects garbage for every few of them: a server that
 * has others to answer stands still meanwhile.
 */
export class FrameMemory {
  readonly #free = new Map<number, SharedArrayBuffer[]>();

  /** Of so many bytes; what was in it is still there. */
  take(bytes: number): SharedArrayBuffer {
    return this.#free.get(bytes)?.pop() ?? new SharedArrayBuffer(bytes);
  }
  /** Nobody reads or writes it any more. What is not shared is left to the garbage collector. */
  giveBack(buffer: ArrayBufferLike): void {
    if (!(buffer instanceof SharedArrayBuffer)) return;
    const free = this.#free.get(buffer.byteLength) ?? [];
    this.#free.set(buffer.byteLength, free);
    free.push(buffer);
  }
}
