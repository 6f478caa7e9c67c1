// Requests of the contract's routes: addresses, methods and schemas come from the one table the server registers from.
import { Problem, ROUTES, type AnswerOf, type BodyOf, type Route, type RouteName } from '@mellow/contract';

/** Why a request has no answer: the server's problem details, or `away` where it did not answer at all. */
export interface Failure {
  status: number | 'away';
  problem: Problem | undefined;
}
export type Answered<T> = { data: T; error?: undefined } | { data?: undefined; error: Failure };

interface Input<N extends RouteName> {
  params?: Record<string, string>;
  query?: Record<string, string>;
  body?: BodyOf<N>;
  signal?: AbortSignal;
}

/** The address of a route: `{parameters}` filled in, the query behind it. */
export function addressOf(
  name: RouteName,
  params: Record<string, string> = {},
  query: Record<string, string> = {},
): string {
  const path = ROUTES[name].path.replaceAll(/\{(\w+)\}/g, (_, key: string) => encodeURIComponent(params[key] ?? ''));
  const search = new URLSearchParams(query).toString();
  return search ? `${path}?${search}` : path;
}

/** What an answer that is no success says. */
async function failureOf(response: Response): Promise<Failure> {
  const said: unknown = await response.json().catch(() => undefined);
  return { status: response.status, problem: Problem.safeParse(said).data };
}

/** Called when the server says that nobody is signed in. */
let signedOut: () => void = () => undefined;
export const onSignedOut = (listener: () => void): void => void (signedOut = listener);

/** Asks a JSON route and parses its answer. What was refused, or did not answer, is a value and no exception. */
export async function ask<N extends RouteName>(
  name: N,
  { params, query, body, signal }: Input<N> = {},
  send: typeof fetch = fetch,
): Promise<Answered<AnswerOf<N>>> {
  const route: Route = ROUTES[name];
  const init: RequestInit = { method: route.method.toUpperCase(), ...(signal && { signal }) };
  if (body !== undefined)
    Object.assign(init, { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } });
  const response = await send(addressOf(name, params, query), init).catch(() => undefined);
  if (!response) return { error: { status: 'away', problem: undefined } };
  if (response.status === 401) signedOut();
  if (!response.ok) return { error: await failureOf(response) };
  const parsed = route.answer!.safeParse(await response.json().catch(() => undefined));
  // an answer of another shape than agreed: page and server are of different versions
  return parsed.success ? { data: parsed.data as AnswerOf<N> } : { error: { status: 500, problem: undefined } };
}

/** What to tell the user about a failed request. */
export function problemText(error: unknown): string {
  const { status, problem } = (error ?? {}) as Partial<Failure>;
  if (problem) return problem.detail;
  if (status === 'away' || status === undefined) return 'The server did not answer. Is it still running?';
  return 'The server’s answer could not be read. Reload the page.';
}
