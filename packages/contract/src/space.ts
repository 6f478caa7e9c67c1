import { z } from 'zod';
import { ProjectId } from './ids.ts';
import { ProjectState } from './projectDocument.ts';

const Bytes = z.number().int().nonnegative();

/** What a project takes on the disk of the media folder. Footage that lies in several projects counts in each. */
export const ProjectSpace = z.object({
  id: ProjectId,
  name: z.string(),
  state: ProjectState,
  /** Since when it is removed. */
  removedAt: z.iso.datetime().nullable(),
  /** Of all footage that it has or has had: an undo may ask for it again. */
  footageBytes: Bytes,
  /** Of the small pictures that browsers show. */
  frameBytes: Bytes,
  renderBytes: Bytes,
});
export type ProjectSpace = z.infer<typeof ProjectSpace>;

export const Space = z.object({
  /** The largest first; only those that who asks may see. */
  projects: z.array(ProjectSpace),
  /** Of footage that is in no project any more; it is cleared away within days. */
  unusedBytes: Bytes,
  /** Room on the disk, and the size of it. */
  freeBytes: Bytes,
  diskBytes: Bytes,
  /** How much footage a project may have; null: as much as there is room. */
  projectBytes: Bytes.nullable(),
  /** After how many days what is removed is deleted, and what was rendered; null: somebody has to do it. */
  keepRemovedDays: z.number().nullable(),
  keepRendersDays: z.number().nullable(),
});
export type Space = z.infer<typeof Space>;
