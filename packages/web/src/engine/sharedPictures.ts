// Decoded pictures that the workers of a page share: what one has loaded the others need not.
import type { CodePicture, CodePlane } from '@mellow/core';

interface Told {
  url: string;
  picture: CodePicture;
}
/**
 * May the page share memory? Only where it is isolated, for which it must have come encrypted or from the same machine.
 */
export const isIsolated: boolean = globalThis.crossOriginIsolated;

type Take = (url: string, picture: CodePicture) => void;

/** The same plane in memory that is shared. */
function sharedPlane<P extends CodePlane>(plane: P): P {
  const Kind = plane.constructor as new (memory: SharedArrayBuffer) => P;
  const shared = new Kind(new SharedArrayBuffer(plane.byteLength));
  shared.set(plane);
  return shared;
}

/**
 * What a worker shares with those that it has met. Where memory may not be shared none meet: each loads its
 * own.
 */
export class SharedPictures {
  readonly #ports: MessagePort[] = [];
  #take: Take = () => undefined;

  /** Shares with whoever is at the other end. */
  meet(port: MessagePort): void {
    this.#ports.push(port);
    port.onmessage = ({ data }: MessageEvent<Told>) => this.#take(data.url, data.picture);
  }
  /** What is done with a picture that another has loaded. */
  listen(take: Take): void {
    this.#take = take;
  }
  /** Puts a picture where all can read it, tells the others, and gives it as it lies there. */
  share(url: string, picture: CodePicture): CodePicture {
    if (this.#ports.length === 0) return picture;
    const { r, g, b, ...size } = picture;
    const shared = { ...size, r: sharedPlane(r), g: sharedPlane(g), b: sharedPlane(b) };
    for (const port of this.#ports) port.postMessage({ url, picture: shared } satisfies Told);
    return shared;
  }
}
