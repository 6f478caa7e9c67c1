import { z } from 'zod';

/** Why a request was refused; the web switches on these. */
export const ProblemCode = z.enum([
  'invalid-input',
  'signed-out',
  'not-allowed',
  'too-many',
  'not-found',
  'stale-revision',
  'refused-media',
  'conflict',
  'too-large',
  'storage-full',
  'unavailable',
  'internal',
]);
export type ProblemCode = z.infer<typeof ProblemCode>;

/** A file, or numbered sequence, that was not taken in. */
export const RefusedFile = z.object({
  name: z.string(),
  reason: z.string(),
  /** What would let it in: its frames taken one by one at this rate, whatever their timestamps say. */
  offer: z.object({ timing: z.literal('frame by frame'), fps: z.number().positive() }).nullable(),
});
export type RefusedFile = z.infer<typeof RefusedFile>;

/** RFC 9457 problem details, with our `code`, the bad fields, and for a stale write what is stored now. */
export const Problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string(),
  code: ProblemCode,
  errors: z.array(z.object({ path: z.string(), message: z.string() })),
  current: z.unknown().optional(),
  /** Where files were sent and none was taken in. */
  refused: z.array(RefusedFile).optional(),
});
export type Problem = z.infer<typeof Problem>;
