import type { Presence } from '@mellow/contract';

/** Somebody else who has the project open, with the shots at which their pages are. */
export interface Other {
  personId: string;
  name: string;
  shotIds: string[];
}
/** The others who have a project open, each once however many pages they have open; one's own pages are left out. */
export function othersOf(pages: readonly Presence[], personId: string): Other[] {
  const others = new Map<string, Other>();
  for (const { personId: id, name, shotId } of pages) {
    if (id === personId) continue;
    const other = others.get(id) ?? { personId: id, name, shotIds: [] };
    if (shotId && !other.shotIds.includes(shotId)) other.shotIds.push(shotId);
    others.set(id, other);
  }
  return [...others.values()].sort((a, b) => a.name.localeCompare(b.name));
}
