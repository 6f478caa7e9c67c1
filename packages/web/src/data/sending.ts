// Files on their way to the server, a few at a time, and what hash each of them has here.
import pLimit from 'p-limit';
import type { SentFile, Upload, UploadId } from '@mellow/contract';
import { openHashes } from './hashing.ts';
import { addressOf, ask, problemText } from './requests.ts';
import { dropFile, sendFile, type TusFile } from './tusFile.ts';

/** How far all files together are. */
export interface HowFar {
  /** 0..1. */
  share: number;
  /** The server does not answer; it is asked again and again. */
  isWaiting: boolean;
}
export interface Sending {
  /** What the server needs to take them in; `said` where it was stopped, or why a file cannot be sent. */
  done: Promise<{ files: SentFile[]; said?: undefined } | { said: string }>;
  pause: () => void;
  goOn: () => void;
  /** Ends it, and takes away what has been sent. */
  stop: () => void;
}

const AT_ONCE = 3;
const STOPPED = 'The upload was stopped; nothing was imported.';

/** What sending is made of; others in tests. */
export const TOOLS = {
  /** Rejects where it cannot be known: what is half here would be sent from its beginning. */
  listUploads: async (): Promise<Upload[]> => {
    const { data, error } = await ask('listUploads');
    if (!data) throw new Error(problemText(error));
    return data;
  },
  sendFile,
  dropFile,
  openHashes,
};

/** Takes away what lies on the server and is in no project. */
export async function dropAll(uploads: readonly Upload[]): Promise<void> {
  const limit = pLimit(AT_ONCE);
  await Promise.all(uploads.map(({ id }) => limit(() => dropFile(addressOf('dropUpload', { uploadId: id })))));
}

/** What was begun earlier of each file: the same by its name, its length and when it was changed last. */
export function begunOf(files: readonly File[], uploads: readonly Upload[]): Map<File, Upload> {
  const left = new Set(uploads);
  const begun = new Map<File, Upload>();
  for (const file of files)
    for (const upload of left) {
      if (upload.name !== file.name || upload.bytes !== file.size || upload.lastModified !== file.lastModified)
        continue;
      begun.set(file, upload);
      left.delete(upload);
      break;
    }
  return begun;
}

/** Adds up how much of each file is there. */
function sumOf(files: readonly File[], tell: (now: HowFar) => void) {
  const total = files.reduce((sum, file) => sum + file.size, 0);
  const there = new Map<File, number>();
  const waiting = new Set<File>();
  let sum = 0;
  const tellNow = () => tell({ share: total === 0 ? 1 : sum / total, isWaiting: waiting.size > 0 });
  return {
    onBytes(file: File, bytes: number) {
      waiting.delete(file);
      sum += bytes - (there.get(file) ?? 0);
      there.set(file, bytes);
      tellNow();
    },
    onWaiting(file: File) {
      waiting.add(file);
      tellNow();
    },
  };
}

/** Lets through, or holds back until it lets through again. */
function openGate() {
  let opened: Promise<void> | undefined;
  let open = (): void => undefined;
  return {
    passed: async () => opened,
    close: () => void (opened ??= new Promise((resolve) => (open = resolve))),
    open() {
      open();
      opened = undefined;
    },
  };
}

export function sendFiles(files: readonly File[], tell: (now: HowFar) => void, tools = TOOLS): Sending {
  const sum = sumOf(files, tell);
  const gate = openGate();
  const onTheWay = new Map<File, TusFile>();
  /** Where what is there of a file lies: all of it, or what was sent earlier. */
  const addresses = new Map<File, string>();
  const limit = pLimit(AT_ONCE);
  let [isOver, isStopped] = [false, false];
  const sendOne = async (file: File, begun: Upload | undefined): Promise<void> => {
    await gate.passed();
    if (isOver) return;
    if (begun && begun.here === begun.bytes) return sum.onBytes(file, file.size);
    const one = tools.sendFile(file, addresses.get(file), {
      onBytes: (bytes) => sum.onBytes(file, bytes),
      onWaiting: () => sum.onWaiting(file),
    });
    onTheWay.set(file, one);
    addresses.set(file, await one.done);
    onTheWay.delete(file);
  };
  const hold = () => onTheWay.forEach((one) => one.pause());
  const dropEach = () => {
    onTheWay.forEach((one) => one.drop());
    for (const [file, address] of addresses) if (!onTheWay.has(file)) void tools.dropFile(address);
  };
  let stop = (_: Error): void => undefined;
  const stopped = new Promise<never>((_, reject) => (stop = reject));
  const all = async (): ReturnType<() => Sending['done']> => {
    const hashes = tools.openHashes();
    const hashed = new Map<File, string>();
    const hashAll = async () => {
      for (const file of files) hashed.set(file, await hashes.sha256(file));
    };
    try {
      const begun = begunOf(files, await tools.listUploads());
      for (const [file, { id }] of begun) addresses.set(file, addressOf('uploadOffset', { uploadId: id }));
      const sent = files.map((file) => limit(() => sendOne(file, begun.get(file))));
      await Promise.race([stopped, Promise.all([hashAll(), ...sent])]);
      return { files: files.map((file) => ({ id: idOf(addresses.get(file)!), sha256: hashed.get(file)! })) };
    } catch (error) {
      isOver = true;
      limit.clearQueue();
      if (isStopped) dropEach();
      else hold();
      return { said: error instanceof Error ? error.message : String(error) };
    } finally {
      hashes.end();
    }
  };
  return {
    done: all(),
    pause() {
      gate.close();
      hold();
    },
    goOn() {
      gate.open();
      onTheWay.forEach((one) => one.goOn());
    },
    stop() {
      isOver = isStopped = true;
      stop(new Error(STOPPED));
    },
  };
}
const idOf = (address: string): UploadId => address.split('/').at(-1) as UploadId;
