import type { PersonKind, Role } from '@mellow/contract';

export const ROLE_TEXT: Record<Role, string> = { editor: 'Editor', reviewer: 'Reviewer', viewer: 'Viewer' };
/** What a role holds, said to who has it. */
export const ROLE_MEANS: Record<Role, string> = {
  editor: 'May do everything in this project.',
  reviewer: 'You may look, write notes and approve.',
  viewer: 'You may look at everything, and change nothing.',
};
export const KIND_TEXT: Record<PersonKind, string> = { admin: 'Admin', member: 'Member', guest: 'Guest' };
export const KIND_MEANS: Record<PersonKind, string> = {
  admin: 'Keeps the accounts; may do everything in every project',
  member: 'Makes projects, reads the media folder',
  guest: 'Sees only the projects they were given',
};

/** Two letters for a name: of its first and its last word. */
export function initials(name: string): string {
  const words = name.split(/\s+/).filter(Boolean);
  const [first = '', last = ''] = [words[0], words.length > 1 ? words.at(-1) : undefined];
  const letter = (word: string) => /^./u.exec(word)?.[0] ?? '';
  return (letter(first) + letter(last)).toUpperCase();
}
