import { expect, it, vi } from 'vitest';
import type { Upload, UploadId } from '@mellow/contract';
import { begunOf, sendFiles, TOOLS, type HowFar } from './sending.ts';
import type { TusFile } from './tusFile.ts';

const fileOf = (name: string, bytes: number, lastModified = 5): File =>
  new File([new Uint8Array(bytes)], name, { lastModified });
const uploadOf = (n: number, name: string, bytes: number, here: number, lastModified: number | null = 5): Upload => ({
  id: `00000000-0000-4000-8000-00000000000${n}` as UploadId,
  ...{ name, bytes, here, lastModified },
});
const idOf = (n: number): string => uploadOf(n, '', 0, 0).id;

/** A file on its way that goes as far as the test moves it. */
interface Hand {
  file: File;
  from: string | undefined;
  did: string[];
  bytes: (n: number) => void;
  waits: () => void;
  arrives: (address: string) => void;
  fails: (said: string) => void;
}
function hands(uploads: Upload[] = []) {
  const began: Hand[] = [];
  const dropped: string[] = [];
  const tools: typeof TOOLS = {
    listUploads: () => Promise.resolve(uploads),
    dropFile: (address) => Promise.resolve(void dropped.push(address)),
    openHashes: () => ({ sha256: (file) => Promise.resolve(`hash of ${file.name}`), end: () => undefined }),
    sendFile(file, from, { onBytes, onWaiting }): TusFile {
      const did: string[] = [];
      let [arrives, fails] = [(_: string): void => undefined, (_: Error): void => undefined];
      const done = new Promise<string>((...both) => ([arrives, fails] = both));
      const hand = {
        file,
        from,
        did,
        bytes: onBytes,
        waits: onWaiting,
        arrives,
        fails: (s: string) => fails(new Error(s)),
      };
      began.push(hand);
      return {
        done,
        pause: () => void did.push('pause'),
        goOn: () => void did.push('go on'),
        drop: () => void did.push('drop'),
      };
    },
  };
  return { began, dropped, tools };
}
/** Lets everything happen that waits for nothing but its turn. */
const turn = () => new Promise((resolve) => setTimeout(resolve, 0));

it('knows what was begun earlier by name, length and date, each once', () => {
  const [a, again] = [fileOf('a', 10), fileOf('a', 10)];
  const others = [fileOf('b', 10), fileOf('a', 11), fileOf('a', 10, 6)];
  const uploads = [uploadOf(1, 'a', 10, 3), uploadOf(2, 'c', 10, 3), uploadOf(3, 'a', 10, 7)];
  const begun = begunOf([a, ...others, again], uploads);
  expect([...begun]).toEqual([
    [a, uploads[0]],
    [again, uploads[2]],
  ]);
  expect(begunOf([a], [uploadOf(1, 'a', 10, 3, null)]).size).toBe(0);
});

it('sends three at a time, goes on with what is half there, and passes over what is whole', async () => {
  const files = ['a', 'b', 'c', 'd', 'e'].map((name) => fileOf(name, 10));
  const { began, tools } = hands([uploadOf(1, 'b', 10, 4), uploadOf(2, 'c', 10, 10)]);
  const told: HowFar[] = [];
  const { done } = sendFiles(files, (now) => told.push(now), tools);
  await turn();
  expect(began.map(({ file, from }) => [file.name, from])).toEqual([
    ['a', undefined],
    ['b', `/api/uploads/${idOf(1)}`],
    ['d', undefined],
  ]);
  expect(told.at(-1)).toEqual({ share: 0.2, isWaiting: false });
  began[1]!.bytes(4);
  began[0]!.waits();
  expect(told.at(-1)).toEqual({ share: 0.28, isWaiting: true });
  began[0]!.bytes(10);
  expect(told.at(-1)).toEqual({ share: 0.48, isWaiting: false });
  for (const [n, name] of ['a', 'b', 'd'].entries()) began[n]!.arrives(`/api/uploads/of-${name}`);
  await turn();
  expect(began[3]!.file.name).toBe('e');
  began[3]!.arrives('/api/uploads/of-e');
  expect(await done).toEqual({
    files: ['of-a', 'of-b', idOf(2), 'of-d', 'of-e'].map((id, i) => ({ id, sha256: `hash of ${files[i]!.name}` })),
  });
});

it('is paused as a whole, and goes on where it was', async () => {
  const files = ['a', 'b', 'c', 'd'].map((name) => fileOf(name, 10));
  const { began, tools } = hands();
  const { pause, goOn } = sendFiles(files, () => undefined, tools);
  await turn();
  pause();
  began[0]!.arrives('/api/uploads/a');
  await turn();
  expect(began.map((hand) => hand.did)).toEqual([['pause'], ['pause'], ['pause']]);
  goOn();
  await turn();
  expect(began.map((hand) => hand.did)).toEqual([['pause'], ['pause', 'go on'], ['pause', 'go on'], []]);
});

it('stopped, it takes away what it has sent, also earlier, and begins nothing more', async () => {
  const files = ['a', 'b', 'c', 'd', 'e', 'f'].map((name) => fileOf(name, 10));
  const { began, dropped, tools } = hands([uploadOf(1, 'b', 10, 4), uploadOf(2, 'f', 10, 4)]);
  const { done, stop } = sendFiles(files, () => undefined, tools);
  await turn();
  began[0]!.arrives('/api/uploads/a');
  await turn();
  stop();
  expect((await done).said).toContain('stopped');
  // what is on its way is taken away by itself, once its address is known
  expect(began.map(({ file, did }) => [file.name, ...did])).toEqual([
    ['a'],
    ['b', 'drop'],
    ['c', 'drop'],
    ['d', 'drop'],
  ]);
  expect(dropped.toSorted()).toEqual([`/api/uploads/${idOf(2)}`, '/api/uploads/a'].toSorted());
  began[1]!.arrives('/api/uploads/b');
  await turn();
  expect(began).toHaveLength(4);
});
it('stopped before it is known what is half there, it begins nothing and takes that away', async () => {
  const { began, dropped, tools } = hands();
  let tell = (_: Upload[]): void => undefined;
  const listUploads = () => new Promise<Upload[]>((resolve) => (tell = resolve));
  const { done, stop } = sendFiles([fileOf('a', 10), fileOf('b', 10)], () => undefined, { ...tools, listUploads });
  stop();
  tell([uploadOf(1, 'b', 10, 4)]);
  expect((await done).said).toContain('stopped');
  await turn();
  expect([began, dropped]).toEqual([[], [`/api/uploads/${idOf(1)}`]]);
});

it('says why a file cannot be sent, and holds the others', async () => {
  const { began, dropped, tools } = hands();
  const { done } = sendFiles([fileOf('a', 10), fileOf('b', 10)], () => undefined, tools);
  await turn();
  began[1]!.fails('The disk of the media folder has room for 0.1 GB');
  expect(await done).toEqual({ said: 'The disk of the media folder has room for 0.1 GB' });
  expect([began[0]!.did, dropped]).toEqual([['pause'], []]);
});
it('begins nothing where it cannot be known what is half there', async () => {
  const { began, tools } = hands();
  const away = vi.fn(() => Promise.reject(new TypeError('fetch failed')));
  vi.stubGlobal('fetch', away);
  const { done } = sendFiles([fileOf('a', 10)], () => undefined, { ...tools, listUploads: TOOLS.listUploads });
  expect((await done).said).toMatch(/^The server did not answer/);
  expect(away).toHaveBeenCalledOnce();
  expect(began).toEqual([]);
  vi.unstubAllGlobals();
});
it('has nothing to wait for where all files are empty', async () => {
  const { began, tools } = hands();
  const told: HowFar[] = [];
  const { done } = sendFiles([fileOf('a', 0)], (now) => told.push(now), tools);
  await turn();
  began[0]!.bytes(0);
  began[0]!.arrives('/api/uploads/a');
  await done;
  expect(told).toEqual([{ share: 1, isWaiting: false }]);
});
