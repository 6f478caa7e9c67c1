// Files on their way to the server: with progress, and to be stopped.
import {
  ROUTES,
  type CubeFile,
  type OpenedArchive,
  type ImportOptions,
  type Problem,
  type RefusedFile,
} from '@mellow/contract';
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
  const { answered, abort } = sent(addressOf(route, { projectId }), form, onProgress);
  return { done: answered.then(({ status, text }) => outcomeOf(route, status, text)), abort };
}

interface Sent {
  /** Status 0: it was stopped, or nobody answered. */
  answered: Promise<{ status: number; text: string }>;
  abort: () => void;
}
/** Sends a form; fetch tells nothing of how much has been sent. */
function sent(address: string, form: FormData, onProgress: (share: number) => void): Sent {
  const request = new XMLHttpRequest();
  request.upload.onprogress = (e) => onProgress(e.loaded / e.total);
  const answered = new Promise<{ status: number; text: string }>((resolve) => {
    request.onloadend = () => resolve({ status: request.status, text: request.responseText });
  });
  request.open('POST', address);
  request.send(form);
  return { answered, abort: () => request.abort() };
}

/** Sends a project that was saved as a zip; `said` where it was refused or stopped. */
export function uploadArchive(
  file: File,
  onProgress: (share: number) => void,
): { done: Promise<OpenedOutcome>; abort: () => void } {
  const form = new FormData();
  form.append('files', file);
  const { answered, abort } = sent(addressOf('openArchive'), form, onProgress);
  return { done: answered.then(({ status, text }) => openedOutcome(status, text)), abort };
}
export interface OpenedOutcome {
  opened?: OpenedArchive;
  said?: string;
}
/** What the answer to an uploaded project comes to. Exported for its test. */
export function openedOutcome(status: number, text: string): OpenedOutcome {
  if (status === 0) return { said: 'It was stopped; no project was made.' };
  const body = parsed(text);
  const opened = ROUTES.openArchive.answer.safeParse(body);
  if (status < 400 && opened.success) return { opened: opened.data };
  return { said: (body as Problem | undefined)?.detail ?? problemText({ status }) };
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
