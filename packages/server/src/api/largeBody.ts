// Bodies of megabytes are read in a thread of its own: to hold each of half a million numbers against its bounds takes
// a second, in which the server would answer nobody.
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import type { BodyOf, RouteName } from '@mellow/contract';
import { Refused } from '../errors.ts';
import { bodyOf } from './bodyOf.ts';
import type { Asked, Told } from './largeBodyWorker.ts';

const THREAD = fileURLToPath(new URL('./largeBodyThread.mjs', import.meta.url));
/** Smaller ones are read in some milliseconds. */
const LARGE_BYTES = 2.5e5;
/** A thread that nobody needs is let go after so long. */
const IDLE_MS = 60_000;

let pool: Piscina<Asked, Told> | undefined;

/** A body as the contract has it. Throws Refused as parseInput does. */
export async function readBody<N extends RouteName>(name: N, bytes: Uint8Array): Promise<BodyOf<N>> {
  if (bytes.length < LARGE_BYTES) return bodyOf(name, bytes);
  pool ??= new Piscina({ filename: THREAD, minThreads: 0, maxThreads: 1, idleTimeout: IDLE_MS });
  const told = await pool.run({ name, bytes });
  if ('refused' in told) throw new Refused(told.refused.code, told.refused.detail, told.refused.errors);
  return JSON.parse(told.json) as BodyOf<N>;
}

export const closeBodyReader = async (): Promise<void> => {
  await pool?.destroy();
  pool = undefined;
};
