import type { ProjectSpace, Space } from '@mellow/contract';
import { bytesText } from '../../ui/bytesText.ts';

export const allBytes = ({ footageBytes, frameBytes, renderBytes }: ProjectSpace): number =>
  footageBytes + frameBytes + renderBytes;

const DAY_MS = 24 * 3600 * 1000;
const daysText = (days: number): string => (days === 1 ? '1 day' : `${days} days`);

/** When a project is deleted by itself; nothing where somebody has to do it. */
export function deletedText(
  { removedAt }: Pick<ProjectSpace, 'removedAt'>,
  { keepRemovedDays }: Pick<Space, 'keepRemovedDays'>,
  now: number,
): string | undefined {
  if (removedAt === null || keepRemovedDays === null) return undefined;
  const left = Math.ceil((Date.parse(removedAt) - now) / DAY_MS + keepRemovedDays);
  return left > 0 ? `deleted for good in ${daysText(left)}` : 'about to be deleted for good';
}

/** What the rules of this installation are, as sentences. */
export function rulesText({ projectBytes, keepRemovedDays, keepRendersDays }: Space): string[] {
  return [
    ...(projectBytes === null ? [] : [`A project may have ${bytesText(projectBytes)} of footage.`]),
    keepRemovedDays === null
      ? 'A removed project stays until somebody deletes it.'
      : `A removed project is deleted for good after ${daysText(keepRemovedDays)}.`,
    ...(keepRendersDays === null ? [] : [`A render is deleted after ${daysText(keepRendersDays)}.`]),
  ];
}
