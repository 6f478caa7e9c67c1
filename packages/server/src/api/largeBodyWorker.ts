// The thread that reads large bodies.
import type { RouteName } from '@mellow/contract';
import { answering } from '../ownThread.ts';
import { bodyOf } from './bodyOf.ts';

export interface Asked {
  name: RouteName;
  bytes: Uint8Array;
}
export default answering(({ name, bytes }: Asked) => JSON.stringify(bodyOf(name, bytes)));
