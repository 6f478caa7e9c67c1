import type { History } from '@mellow/contract';
import { isOf } from './author.ts';
import type { Queryable } from './pool.ts';

/** What undo and redo would do next, of one's own steps. */
export async function historyOf(db: Queryable, projectId: string, personId: string | null): Promise<History> {
  const { rows } = await db.query<{ undo: string | null; redo: string | null }>(
    `select (select label from change where project_id = $1 and ${isOf('$2')} and state = 'done'
              order by seq desc limit 1) as undo,
            (select label from change where project_id = $1 and ${isOf('$2')} and state = 'undone'
              order by seq limit 1) as redo`,
    [projectId, personId],
  );
  return rows[0]!;
}
