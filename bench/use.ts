// What somebody does in a project, one act at a time, for the proofs: every act is asked for again until the server
// answers, as a page does, and says where the answer is not what it should be.
import { createHash, randomUUID } from 'node:crypto';
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { words } from '../packages/server/src/media/words.ts';

export interface Answer<T> {
  status: number;
  body: T;
}
interface Stored<T = { id: string; name: string }> {
  value: T & { id: string };
  revision: number;
}
interface Document {
  pieces: Stored[];
  shots: Stored<{ name: string; projectId: string; mediaId: string }>[];
  colourways: Stored[];
  recipes: Stored<Record<string, unknown>>[];
  media: { id: string; sha256: string; frames: number }[];
}
interface Changed {
  revisions: Record<string, number>;
}
interface Delivery {
  id: string;
  job: { id: string; state: string; message: string | null };
}
/** A film that was brought in. */
export interface Film {
  sha256: string;
  mediaIds: string[];
  shotIds: string[];
}
export const FILM_FRAMES = 8;
const FILM_SIZE = '320x180';
/** A film is sent in pieces of so many bytes. */
const PIECE_BYTES = 300_000;

export interface Surroundings {
  /** Where the server answers now. */
  url: () => string;
  /** A folder for what is sent. */
  work: string;
  /** Nothing more is begun, nor waited for. */
  isOver: () => boolean;
  fault: (text: string) => void;
}

/** No answer takes so long, nor does a server stay away for it; ms. */
const LONGEST_MS = 60_000;

/** Asks again and again until there is an answer. */
async function ask(
  { url, fault }: Surroundings,
  method: string,
  path: string,
  body?: unknown,
): Promise<Answer<Buffer>> {
  for (;;) {
    let had = 'nothing';
    try {
      const response = await fetch(url() + path, {
        method,
        headers: { connection: 'close', 'content-type': 'application/json' },
        ...(body !== undefined && { body: JSON.stringify(body) }),
        signal: AbortSignal.timeout(LONGEST_MS),
      });
      had = `${response.status} and what comes before ${response.headers.get('content-length')} bytes`;
      const bytes = Buffer.from(await response.arrayBuffer());
      if (response.status !== 503) return { status: response.status, body: bytes };
    } catch (error) {
      // away: asked again
      if ((error as Error).name === 'TimeoutError') fault(`${method} ${path} stood still, had ${had}, ${now()}`);
    }
    await pause(50);
  }
}
const now = (): string => new Date().toISOString();

const JOINED = { on: true, mode: 'add', invert: false, strength: 1 };
/** Somebody in the project of this name. */
export async function somebody(name: string, surroundings: Surroundings) {
  const { url, work, isOver, fault } = surroundings;
  const said = async <T>(method: string, path: string, sent?: unknown): Promise<Answer<T>> => {
    const { status, body } = await ask(surroundings, method, path, sent);
    return { status, body: JSON.parse(body.toString() || 'null') as T };
  };
  const get = async <T>(path: string) => (await said<T>('GET', path)).body;
  const post = <T>(path: string, body: unknown) => said<T>('POST', path, body);
  /** The frame of a proxy, as a file of PNG. */
  const frame = async (mediaId: string, at: number) =>
    (await ask(surroundings, 'GET', `/api/media/${mediaId}/frames/proxy/${at}`)).body;
  /** Throws a render away. */
  const discard = async (id: string): Promise<void> => {
    const { status } = await said('DELETE', `/api/deliveries/${id}`);
    if (status !== 200) fault(`a render was not deleted: ${status}`);
  };
  const projects = await get<{ id: string; name: string }[]>('/api/projects');
  const projectId = projects.find((p) => p.name === name)!.id;
  const at = `/api/projects/${projectId}`;
  const document = () => get<Document>(at);
  const told = ({ status, body }: Answer<unknown>): string => `${status}: ${JSON.stringify(body).slice(0, 300)}`;
  const { shots, colourways, recipes, pieces } = await document();
  const start = shots[0]!.value;

  /** Of each acknowledged edit its id. */
  const acknowledged: string[] = [];
  const change = async (label: string, kind: string, id: string, revision: number | null, value: object) => {
    const body = { id: randomUUID(), label, edits: [{ kind, id, revision, value }] };
    const answer = await post<Changed>(`${at}/changes`, body);
    if (answer.status !== 200) {
      fault(`“${label}” was answered with ${told(answer)}`);
      return undefined;
    }
    acknowledged.push(body.id);
    return answer.body.revisions[id]!;
  };

  const pieceId = randomUUID();
  let revision: number | null = null;
  /** Renames a piece of their own. */
  const edit = async (): Promise<void> => {
    const next = `Piece ${acknowledged.length}`;
    const value = { id: pieceId, projectId, name: next, kind: 'product', position: 9, partOf: null };
    const answered: number | undefined = await change(next, 'piece', pieceId, revision, value);
    if (answered !== (revision ?? 0) + 1) fault(`${next} is revision ${answered}, after ${revision}`);
    revision = answered ?? revision;
  };

  let turns = 0;
  /** Turns a recipe's strength, whose colours are measured anew. */
  const turn = async (): Promise<void> => {
    const recipe = recipes[turns++ % recipes.length]!;
    const value = { ...recipe.value, strength: ((turns % 9) + 1) / 10 };
    recipe.revision = (await change('Turn', 'recipe', recipe.value.id, recipe.revision, value)) ?? recipe.revision;
  };

  const films: Film[] = [];
  /** Sends bytes in pieces, each from where the server says. Gives what the server calls them; undefined when over. */
  const send = async (bytes: Buffer, fileName: string): Promise<string | undefined> => {
    const tus = { 'tus-resumable': '1.0.0', connection: 'close' };
    const named = `filename ${Buffer.from(fileName).toString('base64')}`;
    let id: string | undefined;
    let here = 0;
    while (!isOver() && (id === undefined || here < bytes.length)) {
      try {
        if (id === undefined) {
          const headers = { ...tus, 'upload-length': String(bytes.length), 'upload-metadata': named };
          const begun = await fetch(`${url()}/api/uploads`, { method: 'POST', headers });
          if (begun.status === 201) id = begun.headers.get('location')!.split('/').at(-1)!;
          continue;
        }
        const head = await fetch(`${url()}/api/uploads/${id}`, { method: 'HEAD', headers: tus });
        if (head.status === 404) {
          fault(`the upload ${id}, which was begun, is gone`);
          id = undefined;
          continue;
        }
        here = Number(head.headers.get('upload-offset') ?? 0);
        const headers = { ...tus, 'content-type': 'application/offset+octet-stream', 'upload-offset': String(here) };
        const body = new Uint8Array(bytes.subarray(here, here + PIECE_BYTES));
        const patched = await fetch(`${url()}/api/uploads/${id}`, { method: 'PATCH', headers, body });
        if (patched.status === 204) here = Number(patched.headers.get('upload-offset'));
      } catch {
        await pause(50);
      }
      await pause(20);
    }
    return isOver() ? undefined : id;
  };
  let made = 0;
  /** Sends and brings in a film that was never there before. */
  const bringIn = async (size = FILM_SIZE): Promise<Film | undefined> => {
    const file = join(work, 'film.mkv');
    const noise = `testsrc2=size=${size}:rate=24,noise=alls=40:allf=t:all_seed=${++made}`;
    execFileSync('ffmpeg', [
      ...words('-v error -y -f lavfi -i'),
      noise,
      ...words(`-frames:v ${FILM_FRAMES} -c:v ffv1`),
      file,
    ]);
    const bytes = readFileSync(file);
    const sha256 = createHash('sha256').update(bytes).digest('hex');
    const id = await send(bytes, `film-${made}.mkv`);
    if (id === undefined) return undefined;
    const taken = { as: 'footage', files: [{ id, sha256 }] };
    const answer = await post<Omit<Film, 'sha256'>>(`${at}/media/sent`, taken);
    if (answer.status === 201) {
      films.push({ sha256, ...answer.body });
      return films.at(-1);
    }
    // taken in just before the plug was pulled: the answer was lost, not the film
    if (answer.status !== 404) fault(`an import was answered with ${told(answer)}`);
    return undefined;
  };

  const waited = async (isOpen: () => Promise<boolean>): Promise<void> => {
    while (!isOver() && (await isOpen())) await pause(200);
  };
  const isOpen = (state: string | undefined): boolean => state === 'queued' || state === 'running';
  const render = async (shotId: string, preset: string): Promise<void> => {
    const body = { shotIds: [shotId], colourwayIds: [colourways[0]!.value.id], preset };
    const asked = await post<Delivery[]>(`${at}/deliveries`, body);
    if (!Array.isArray(asked.body)) return fault(`a render was answered with ${told(asked)}`);
    const ids = asked.body.map((d) => d.id);
    await waited(async () =>
      (await get<Delivery[]>(`${at}/deliveries`)).some((d) => ids.includes(d.id) && isOpen(d.job.state)),
    );
  };
  /** Renders a shot of the demo. */
  const renderShot = (n: number): Promise<void> => render(shots[n % 5]!.value.id, n % 2 ? 'ffv1' : 'h264');
  const renderFilm = ({ shotIds }: Film, preset = 'ffv1'): Promise<void> => render(shotIds[0]!, preset);

  const corner = (x: number, y: number) => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 });
  /** Draws a region and asks for its track, as a track of its own. */
  const track = async (): Promise<void> => {
    const id = randomUUID();
    const region = { form: 'spline', points: [corner(250, 290), corner(545, 290), corner(545, 690), corner(250, 690)] };
    const freedom = { move: true, turn: true, scale: true, shear: true, perspective: false };
    const own = { id, projectId, shotId: start.id, name: 'Case', referenceFrame: 0, region, freedom };
    await change('Draw', 'track', id, null, { ...own, holdOuts: [], manual: [], runs: [] });
    await post(`${at}/track-runs`, { trackId: id, spans: [{ from: 0, to: 20 }] });
  };

  /** Isolates a piece on a film by an ellipse, full-resolution pixels. */
  const isolate = async ({ shotIds }: Film, cx: number, cy: number, width: number, height: number): Promise<void> => {
    const [id, layerId] = [randomUUID(), randomUUID()];
    const geometry = { form: 'ellipse', cx, cy, width, height, turnDeg: 0 };
    const feather = { innerPx: 10, outerPx: 10, falloff: 'smooth' };
    const layer = { ...JOINED, id: layerId, name: 'Shape', kind: 'shape', geometry, feather };
    const own = { id, projectId, pieceId: pieces[0]!.value.id, shotId: shotIds[0]! };
    await change('Isolate', 'sighting', id, null, { ...own, layers: [layer] });
  };

  interface Asked {
    subject: string;
    state: string;
  }
  /** Strokes on a film's first frame, carried to its last. */
  const carry = async ({ shotIds }: Film): Promise<void> => {
    const [id, layerId] = [randomUUID(), randomUUID()];
    const stroke = (sign: 'in' | 'out', ...points: [number, number][]) => ({ sign, widthPx: 8, points, frame: 0 });
    const strokes = [stroke('in', [140, 80], [180, 100]), stroke('out', [40, 30], [280, 30], [280, 150], [40, 150])];
    const layer = { ...JOINED, id: layerId, name: 'Scribble', kind: 'scribble', strokes, carried: [] };
    const own = { id, projectId, pieceId: pieces[0]!.value.id, shotId: shotIds[0]! };
    if ((await change('Scribble', 'sighting', id, null, { ...own, layers: [layer] })) === undefined) return;
    const answer = await post(`${at}/carry-runs`, { sightingId: id, layerId });
    if (answer.status >= 400) return fault(`a pass was answered with ${told(answer)}`);
    await waited(async () =>
      (await get<Asked[]>(`${at}/jobs`)).some((job) => job.subject === layerId && isOpen(job.state)),
    );
  };

  const looking = { document, get, frame };
  const rendering = { renderShot, renderFilm, discard };
  return { at, ...looking, acknowledged, films, edit, turn, bringIn, isolate, track, carry, ...rendering };
}
