import type { RefusedFile } from '@mellow/contract';
import { Refused } from '../errors.ts';
import { safeFileName } from './store.ts';

export const VIDEO_EXTENSIONS = 'mov mp4 m4v mkv webm avi mxf mpg mpeg ts m2ts ivf y4m nut 3gp'.split(' ');
export const IMAGE_EXTENSIONS = 'png tif tiff jpg jpeg exr dpx'.split(' ');

/** A file that lies ready: where it is now and what the user calls it. */
export interface IncomingFile {
  path: string;
  name: string;
}

/** Files that belong together: one video, or numbered images that share everything but their number. */
export interface FileGroup {
  kind: 'video' | 'sequence';
  /** As shown to the user: the file name, or `name.[0001-0048].png`. */
  name: string;
  /** Files in frame order; `name` is the one they are stored under. */
  files: IncomingFile[];
  /** printf pattern (sequences) or the file name. */
  input: string;
  startNumber: number | null;
}
interface Numbered extends IncomingFile {
  n: number;
  digits: string;
}

const extensionOf = (name: string): string => name.slice(name.lastIndexOf('.') + 1).toLowerCase();

/**
 * Sorts files into videos and image sequences. What is neither, a numbering with gaps, and images named alike are
 * listed with the reason. Videos named alike are videos of their own.
 */
export function groupFiles(incoming: readonly IncomingFile[]): { groups: FileGroup[]; refused: RefusedFile[] } {
  const groups: FileGroup[] = [];
  const refused: RefusedFile[] = [];
  const numbered = new Map<string, { prefix: string; suffix: string; files: Numbered[] }>();
  const refuse = (name: string, reason: string) => void refused.push({ name, reason, offer: null });
  for (const { path, name: given } of incoming) {
    const extension = extensionOf(given);
    const name = storedName(given);
    if (name === undefined) refuse(given, `“${given}” is not a file name.`);
    else if (VIDEO_EXTENSIONS.includes(extension))
      groups.push({ kind: 'video', name: given, files: [{ path, name }], input: name, startNumber: null });
    else if (!IMAGE_EXTENSIONS.includes(extension)) refuse(given, unknownKind(given));
    else {
      const match = /^(.*?)(\d+)(\.[^.]+)$/.exec(name);
      const [prefix, digits, suffix] = match ? [match[1]!, match[2]!, match[3]!] : [name, '', ''];
      const entry = numbered.get(`${prefix}\0${suffix}`) ?? { prefix, suffix, files: [] };
      entry.files.push({ path, name, n: Number(digits || 0), digits });
      numbered.set(`${prefix}\0${suffix}`, entry);
    }
  }
  for (const { prefix, suffix, files } of numbered.values())
    try {
      groups.push(sequenceOf(prefix, suffix, files));
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      refuse(error.errors[0]!.path, error.message);
    }
  return { groups, refused };
}

function storedName(name: string): string | undefined {
  try {
    return safeFileName(name);
  } catch {
    return undefined;
  }
}

const unknownKind = (name: string): string =>
  `“${name}” is neither a video nor an image of a known kind ` +
  `(${[...VIDEO_EXTENSIONS, ...IMAGE_EXTENSIONS].join(', ')}).`;

const refusal = (path: string, message: string) => new Refused('refused-media', message, [{ path, message }]);

function sequenceOf(prefix: string, suffix: string, files: Numbered[]): FileGroup {
  files.sort((a, b) => a.n - b.n);
  const [first, last] = [files[0]!, files.at(-1)!];
  for (let i = 1; i < files.length; i++) {
    const [before, file] = [files[i - 1]!, files[i]!];
    if (file.name === before.name) throw refusal(file.name, `Two files are called “${file.name}”.`);
    if (file.n === before.n)
      throw refusal(file.name, `Two files carry the number ${file.n}: “${before.name}” and “${file.name}”.`);
  }
  const stored = files.map(({ path, name }) => ({ path, name }));
  if (!suffix) return { kind: 'sequence', name: first.name, files: stored, input: first.name, startNumber: 0 };
  const name = `${prefix}[${first.digits}-${last.digits}]${suffix}`;
  const missing = missingNumbers(files.map((f) => f.n));
  if (missing.length > 0)
    throw refusal(
      name,
      `“${name}” was not imported: frames are missing: ${missing.join(', ')}${missing.length === 10 ? ' …' : ''}.`,
    );
  const padded = new Set(files.map((x) => x.digits.length)).size === 1;
  if (!padded && files.some((x) => x.digits.length > 1 && x.digits.startsWith('0')))
    throw refusal(name, `“${name}” was not imported: its numbers have different lengths.`);
  const place = padded ? `%0${first.digits.length}d` : '%d';
  return { kind: 'sequence', name, files: stored, input: `${prefix}${place}${suffix}`, startNumber: first.n };
}

/** Numbers left out of an ascending list, the first ten of them. */
function missingNumbers(ascending: readonly number[]): number[] {
  const missing: number[] = [];
  for (let i = 1; i < ascending.length; i++)
    for (let n = ascending[i - 1]! + 1; n < ascending[i]! && missing.length < 10; n++) missing.push(n);
  return missing;
}
