/** Whose a change is. `id` null: of who works without a sign-in. */
export interface Author {
  id: string | null;
  name: string;
}
/**
 * What is of the person that `parameter` stands for in a statement, or of nobody where that is null: as the index on
 * the log has it.
 */
export const isOf = (parameter: string): string =>
  `coalesce(person_id, '${NOBODY}') = coalesce(${parameter}::uuid, '${NOBODY}')`;
const NOBODY = '00000000-0000-0000-0000-000000000000';
/** The one who works where nobody signs in. */
export const LOCAL: Author = { id: null, name: 'local' };
