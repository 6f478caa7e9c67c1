// The media folder's disk, where it does not do what it should: in words for whoever asked.
import type { ProblemCode } from '@mellow/contract';

interface DiskFault {
  code: Extract<ProblemCode, 'storage-full' | 'unavailable'>;
  /** A plain sentence without a path. */
  detail: string;
}
const full: DiskFault = { code: 'storage-full', detail: 'The disk of the media folder is full: free some space.' };
const shut: DiskFault = { code: 'unavailable', detail: 'The media folder cannot be written to: it is not ours.' };
/** By the names of errno(3), as Node's errors give them. */
const FAULTS: Record<string, DiskFault> = {
  ENOSPC: full,
  EDQUOT: full,
  EROFS: { code: 'unavailable', detail: 'The media folder cannot be written to: its disk is read-only.' },
  EACCES: shut,
  EPERM: shut,
  EIO: { code: 'unavailable', detail: 'The disk of the media folder fails: it does not read or write.' },
  ESTALE: { code: 'unavailable', detail: 'The media folder was taken away: it has to be mounted again.' },
  EMFILE: { code: 'unavailable', detail: 'Too many files are open at once.' },
};

const unmade: DiskFault = { code: 'unavailable', detail: 'The media folder cannot be written to.' };

/** Calls that fail for other reasons than a disk's. */
const OF_NO_FILE = /^(listen|bind|connect|accept|getaddrinfo|spawn)/;
/** What is the matter with the disk, where an error is that of a file that could not be read or written. */
export function diskFaultOf(error: unknown): DiskFault | undefined {
  if (!(error instanceof Error) || !('code' in error) || !('syscall' in error)) return undefined;
  if (OF_NO_FILE.test(String(error.syscall))) return undefined;
  // Node says so of a folder that cannot be made with those above it, whatever the reason
  if (error.code === 'ENOENT' && error.syscall === 'mkdir') return unmade;
  return FAULTS[String(error.code)];
}
