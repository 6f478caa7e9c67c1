import { z } from 'zod';

/** Why a request was refused; the web switches on these. */
export const ProblemCode = z.enum([
  'invalid-input',
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

/** RFC 9457 problem details, with our `code`, the bad fields, and for a stale write what is stored now. */
export const Problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string(),
  code: ProblemCode,
  errors: z.array(z.object({ path: z.string(), message: z.string() })),
  current: z.unknown().optional(),
});
export type Problem = z.infer<typeof Problem>;
