import { readFileSync } from 'node:fs';
import { basename } from 'node:path';
import type { MediaId, RefusedFile, ShotId } from '@mellow/contract';
import type { Harness } from './harness.ts';

/** What an upload answers, whether it was taken in or refused. */
export interface Uploaded {
  status: number;
  body: { mediaIds: MediaId[]; shotIds: ShotId[]; refused?: RefusedFile[]; detail?: string; code?: string };
}

/**
 * Sends files as a browser does; a pair gives a file another name than it has. `fields` are the form's other fields.
 */
export async function upload(
  { url }: Pick<Harness, 'url'>,
  projectId: string,
  files: readonly (string | readonly [path: string, name: string])[],
  { route = 'media', ...fields }: Record<string, string> = {},
): Promise<Uploaded> {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) form.append(name, value);
  for (const file of files) {
    const [path, name] = typeof file === 'string' ? [file, basename(file)] : file;
    form.append('files', new Blob([readFileSync(path)]), name);
  }
  const response = await fetch(`${url}/api/projects/${projectId}/${route}`, {
    method: 'POST',
    body: form,
    headers: { connection: 'close' },
  });
  return { status: response.status, body: (await response.json()) as Uploaded['body'] };
}
