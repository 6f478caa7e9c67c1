// Files on their way to the server: with progress, and to be stopped.
import { ROUTES, type CubeFile, type ImportOptions, type Problem, type RefusedFile } from '@mellow/contract';
import { addressOf, problemText } from './requests.ts';

export interface Outcome {
  mediaIds: string[];
  refused: RefusedFile[];
  said: string | undefined;
}
export interface Upload {
  /** What came in and what did not; `said` where nothing did and the server or the user said why. */
  done: Promise<Outcome>;
  abort: () => void;
}

/** Sends footage or mattes into a project. */
export function uploadFiles(
  route: 'uploadMedia' | 'uploadPlate',
  projectId: string,
  files: readonly File[],
  { fps, timing }: ImportOptions,
  onProgress: (share: number) => void,
): Upload {
  const form = new FormData();
  if (fps !== undefined) form.append('fps', String(fps));
  if (timing) form.append('timing', timing);
  for (const file of files) form.append('files', file);
  // fetch tells nothing of how much has been sent
  const request = new XMLHttpRequest();
  request.upload.onprogress = (e) => onProgress(e.loaded / e.total);
  const done = new Promise<Outcome>((resolve) => {
    request.onloadend = () => resolve(outcomeOf(route, request.status, request.responseText));
  });
  request.open('POST', addressOf(route, { projectId }));
  request.send(form);
  return { done, abort: () => request.abort() };
}

/** Brings a look-up table in; `said` where it was refused. */
export async function uploadCube(projectId: string, file: File): Promise<{ cube?: CubeFile; said?: string }> {
  const form = new FormData();
  form.append('files', file);
  const response = await fetch(addressOf('uploadCube', { projectId }), { method: 'POST', body: form }).catch(
    () => undefined,
  );
  if (!response) return { said: problemText({ status: 'away' }) };
  const body = parsed(await response.text());
  const cube = ROUTES.uploadCube.answer.safeParse(body);
  if (response.ok && cube.success) return { cube: cube.data };
  return { said: (body as Problem | undefined)?.detail ?? problemText({ status: response.status }) };
}

/** What an upload's answer comes to. Exported for its test. */
export function outcomeOf(route: 'uploadMedia' | 'uploadPlate', status: number, text: string): Outcome {
  const nothing = { mediaIds: [], refused: [] as RefusedFile[] };
  if (status === 0) return { ...nothing, said: 'The upload was stopped; nothing was imported.' };
  const body = parsed(text);
  if (status < 400) {
    const answer = ROUTES[route].answer.safeParse(body);
    return answer.success ? { ...answer.data, said: undefined } : { ...nothing, said: problemText({ status: 500 }) };
  }
  const problem = body as Problem | undefined;
  return { mediaIds: [], refused: problem?.refused ?? [], said: problem?.detail ?? problemText({ status }) };
}
function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
