// Which projects the start page shows, and in what order.
import type { ProjectCard, ProjectState } from '@mellow/contract';

export const ORDERS = { edited: 'last edited', name: 'name', shots: 'most shots' } as const;
export type Order = keyof typeof ORDERS;

const BY: Record<Order, (a: ProjectCard, b: ProjectCard) => number> = {
  edited: (a, b) => Date.parse(b.updatedAt) - Date.parse(a.updatedAt),
  name: (a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }),
  shots: (a, b) => b.shots - a.shots || BY.name(a, b),
};
/** Those of a state in whose name, or a piece's, every word that was typed is found; of any case. */
export function listed(
  projects: readonly ProjectCard[],
  { state, search, order }: { state: ProjectState; search: string; order: Order },
): ProjectCard[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const isFound = ({ name, pieces }: ProjectCard) => {
    const text = [name, ...pieces.map((p) => p.name)].join(' ').toLowerCase();
    return words.every((word) => text.includes(word));
  };
  return projects.filter((p) => p.state === state && isFound(p)).sort(BY[order]);
}
