import type { History } from '@mellow/contract';
import { isOf } from './author.ts';
import { list, type Listing } from './listing.ts';
import type { Queryable } from './pool.ts';

/** What undo and redo would do next in a project ($1), of somebody's own steps ($2). */
export const HISTORY: Listing<History> = {
  text: `select (select label from change where project_id = $1 and ${isOf('$2')} and state = 'done'
            order by seq desc limit 1) as undo,
          (select label from change where project_id = $1 and ${isOf('$2')} and state = 'undone'
            order by seq limit 1) as redo`,
  toValue: (row) => row as History,
};
export const historyOf = async (db: Queryable, projectId: string, personId: string | null): Promise<History> =>
  (await list(db, HISTORY, [projectId, personId]))[0]!;
