// The environment in which a server's process is begun, over which whoever runs it has the last word.

/**
 * glibc keeps what was freed, in pieces of up to 32 MB, for the thread that had it, and frames come and go in all
 * threads: a server at rest would hold hundreds of megabytes that nobody needs. With the size from which a piece is the
 * machine's own set, to the one glibc begins with, such a piece goes back when it is freed (mallopt(3)).
 */
const MEMORY = { MALLOC_MMAP_THRESHOLD_: String(128 * 1024) };
export const serverEnv = (env) => ({ ...MEMORY, ...env });
