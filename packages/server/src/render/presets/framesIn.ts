import { join } from 'node:path';

/** Where numbered files are kept until they are sent. */
export const framesIn = (folder: string): string => join(folder, 'frames');
