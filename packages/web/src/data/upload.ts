// Files that the user brings in: sent, with progress, to be held and to be stopped; then taken in by the server.
import {
  ROUTES,
  type CubeFile,
  type ImportOptions,
  type ImportUploads,
  type OpenedArchive,
  type Problem,
  type RefusedFile,
} from '@mellow/contract';
import { addressOf, ask, problemText, type Answered } from './requests.ts';
import { sendFiles, type HowFar, type Sending } from './sending.ts';

export interface Outcome {
  mediaIds: string[];
  refused: RefusedFile[];
  said: string | undefined;
}
/** A file, or some, on the way; `said` in what comes of it: why nothing came in. */
export interface Upload<T> extends Pick<Sending, 'pause' | 'goOn' | 'stop'> {
  done: Promise<T>;
}

/** Sends files; where all are there, has the server take them in. */
function sentAndTaken<T>(
  files: readonly File[],
  tell: (now: HowFar) => void,
  take: (sent: ImportUploads['files'], stopped: AbortSignal) => Promise<T>,
  failed: (said: string) => T,
): Upload<T> {
  const stopped = new AbortController();
  const { done, pause, goOn, stop } = sendFiles(files, tell);
  return {
    done: done.then(async (sent) => {
      if (sent.said !== undefined) return failed(sent.said);
      return take(sent.files, stopped.signal);
    }),
    pause,
    goOn,
    stop() {
      stopped.abort();
      stop();
    },
  };
}

/** Sends footage or mattes into a project. */
export const uploadFiles = (
  as: ImportUploads['as'],
  projectId: string,
  files: readonly File[],
  options: ImportOptions,
  tell: (now: HowFar) => void,
): Upload<Outcome> =>
  sentAndTaken(
    files,
    tell,
    async (sent, signal) => {
      const body = { as, files: sent, ...options };
      return outcomeOf(await ask('importUploads', { params: { projectId }, body, signal }), signal);
    },
    (said) => ({ mediaIds: [], refused: [], said }),
  );

/** What the server's answer comes to. Exported for its test. */
export function outcomeOf(
  { data, error }: Answered<Pick<Outcome, 'mediaIds' | 'refused'>>,
  stopped?: AbortSignal,
): Outcome {
  if (data) return { ...data, said: undefined };
  if (stopped?.aborted) return { mediaIds: [], refused: [], said: 'The import was stopped.' };
  return { mediaIds: [], refused: error.problem?.refused ?? [], said: problemText(error) };
}

/** A project that was opened; `said` where it was refused or stopped. */
export interface OpenedOutcome {
  opened?: OpenedArchive;
  said?: string;
}
/** Sends a project that was saved as a zip. */
export const uploadArchive = (file: File, tell: (now: HowFar) => void): Upload<OpenedOutcome> =>
  sentAndTaken<OpenedOutcome>(
    [file],
    tell,
    async ([sent], signal) => {
      const { data, error } = await ask('openSentArchive', { body: sent!, signal });
      if (data) return { opened: data };
      return { said: signal.aborted ? 'It was stopped; no project was made.' : problemText(error) };
    },
    (said) => ({ said }),
  );

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
function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
