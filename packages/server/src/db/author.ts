/** Whose a change is. `id` null: of who works without a sign-in. */
export interface Author {
  id: string | null;
  name: string;
}
/** The one who works where nobody signs in. */
export const LOCAL: Author = { id: null, name: 'local' };
