// Sending by hand, as the protocol says (tus 1.0.0, tus.io/protocols/resumable-upload).
import { createHash } from 'node:crypto';
import type { UploadId } from '@mellow/contract';
import type { Harness } from './harness.ts';

export const TUS = { 'tus-resumable': '1.0.0', connection: 'close' };
export const OCTETS = { 'content-type': 'application/offset+octet-stream' };
type Headers = Record<string, string>;

export const base64 = (text: string): string => Buffer.from(text).toString('base64');
export const hashOf = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex');

/** Asks for a place for a file of so many bytes. */
export const begin = ({ url }: Pick<Harness, 'url'>, name: string, bytes: number, headers: Headers = {}) =>
  fetch(`${url}/api/uploads`, {
    method: 'POST',
    headers: { ...TUS, 'upload-length': String(bytes), 'upload-metadata': `filename ${base64(name)}`, ...headers },
  });
/** What the server calls a file that was begun. */
export const idOf = (answer: Response): UploadId => answer.headers.get('location')!.split('/').at(-1) as UploadId;

/** Sends a piece of it, which lies at `from`. */
export const send = (
  { url }: Pick<Harness, 'url'>,
  id: string,
  from: number,
  body: Buffer,
  headers: Headers = {},
): Promise<Response> =>
  fetch(`${url}/api/uploads/${id}`, {
    method: 'PATCH',
    headers: { ...TUS, ...OCTETS, 'upload-offset': String(from), ...headers },
    body: new Uint8Array(body),
  });

/** How much of it is here; undefined where there is no such file. */
export async function offset({ url }: Pick<Harness, 'url'>, id: string): Promise<number | undefined> {
  const answer = await fetch(`${url}/api/uploads/${id}`, { method: 'HEAD', headers: TUS });
  return answer.ok ? Number(answer.headers.get('upload-offset')) : undefined;
}
