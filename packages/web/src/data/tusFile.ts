// One file on its way to the server by the open protocol tus (tus.io/protocols): it goes on from where it was broken
// off, by the network, by the user, or by a page that was closed in the middle.
import { Upload as TusUpload, type DetailedError } from 'tus-js-client';
import { Problem } from '@mellow/contract';
import { addressOf, problemText } from './requests.ts';

/** A server that is gone is waited for: at first every few seconds, then for an hour and a half. */
const RETRY_MS = [500, 1000, 2000, 5000, ...Array.from({ length: 180 }, () => 30_000)];
/** What another try may mend: not what the request itself is to blame for, nor a full disk. */
const isWorthAnotherTry = (status: number): boolean =>
  status === 0 || [409, 423, 429].includes(status) || (status >= 500 && status !== 507);

interface Listener {
  /** So many of its bytes are there. */
  onBytes: (bytes: number) => void;
  /** The server did not answer, and will be asked again. */
  onWaiting: () => void;
}
export interface TusFile {
  /** The address it was sent to; rejects with what to say where it cannot be sent. */
  done: Promise<string>;
  pause: () => void;
  goOn: () => void;
  /** Ends it, and takes away what is there of it: what the server is just asked to make, once it is made. */
  drop: () => void;
}

/** Begins, or goes on, to send a file. `from`: the address of what was begun earlier. */
export function sendFile(file: File, from: string | undefined, { onBytes, onWaiting }: Listener): TusFile {
  let [resolve, reject] = [(_: string): void => undefined, (_: Error): void => undefined];
  const done = new Promise<string>((...both) => ([resolve, reject] = both));
  let [isHeld, isDropped, isGoing] = [false, false, false];
  const halt = () => {
    void upload.abort();
    isGoing = false;
    if (isDropped) void dropFile(upload.url!);
  };
  // what is broken off while the server makes a place for it would stay there, and nobody would know its address
  const haltOnceKnown = () => {
    if (isHeld && upload.url !== null) halt();
  };
  const go = () => {
    isHeld = false;
    if (isGoing) return;
    isGoing = true;
    upload.start();
  };
  const upload = new TusUpload(file, {
    endpoint: addressOf('createUpload'),
    uploadUrl: from ?? null,
    metadata: { filename: file.name, lastModified: String(file.lastModified) },
    // the address is known before anything is sent to it: what is broken off earlier could not be gone on with
    uploadDataDuringCreation: false,
    // the server knows what is half here, for every browser of the same person
    storeFingerprintForResuming: false,
    retryDelays: RETRY_MS,
    onShouldRetry: (error) => {
      if (isDropped || !isWorthAnotherTry(error.originalResponse?.getStatus() ?? 0)) return false;
      onWaiting();
      return true;
    },
    onUploadUrlAvailable: haltOnceKnown,
    onProgress: onBytes,
    onSuccess: () => resolve(upload.url!),
    onError: (error) => reject(new Error(saidOf(error))),
  });
  go();
  return {
    done,
    pause() {
      isHeld = true;
      haltOnceKnown();
    },
    goOn: go,
    drop() {
      isHeld = isDropped = true;
      haltOnceKnown();
    },
  };
}

/** Takes away what is there of a file; where the server does not answer, it does so itself after a week. */
export const dropFile = (address: string): Promise<void> => TusUpload.terminate(address).catch(() => undefined);

/** What the server said of a file that it would not take. */
function saidOf(error: Error | DetailedError): string {
  const answer = 'originalResponse' in error ? error.originalResponse : null;
  if (!answer) return problemText({ status: 'away' });
  return problemIn(answer.getBody())?.detail ?? problemText({ status: answer.getStatus() });
}
function problemIn(text: string): Problem | undefined {
  try {
    return Problem.safeParse(JSON.parse(text)).data;
  } catch {
    return undefined;
  }
}
