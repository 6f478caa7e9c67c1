// Bodies of megabytes are read in a thread of its own: to hold each of half a million numbers against its bounds takes
// a second, in which the server would answer nobody.
import type { BodyOf, RouteName } from '@mellow/contract';
import { OwnThread } from '../ownThread.ts';
import { bodyOf } from './bodyOf.ts';
import type { Asked } from './largeBodyWorker.ts';

/** Smaller ones are read in some milliseconds. */
const LARGE_BYTES = 2.5e5;
/** Gives the body as the contract has it, as text again: that is read quickest on this side. */
const thread = new OwnThread<Asked, string>(new URL('./largeBodyThread.mjs', import.meta.url));

/** A body as the contract has it. Throws Refused as parseInput does. */
export async function readBody<N extends RouteName>(name: N, bytes: Uint8Array): Promise<BodyOf<N>> {
  if (bytes.length < LARGE_BYTES) return bodyOf(name, bytes);
  return JSON.parse(await thread.ask({ name, bytes })) as BodyOf<N>;
}

export const closeBodyReader = (): Promise<void> => thread.close();
