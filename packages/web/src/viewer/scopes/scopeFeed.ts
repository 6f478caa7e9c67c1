import type { Scope } from '@mellow/core';
import { Feed } from '../../inhand/feed.ts';

/** The scope of the frame that is shown: grids of counts. */
export const scopeFeed = new Feed<Scope | undefined>(undefined);
