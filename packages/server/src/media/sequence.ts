import { Refused } from '../api/problem.ts';

export const VIDEO_EXTENSIONS = [
  'mov',
  'mp4',
  'm4v',
  'mkv',
  'webm',
  'avi',
  'mxf',
  'mpg',
  'mpeg',
  'ts',
  'm2ts',
  'ivf',
  'y4m',
  'nut',
  '3gp',
];
export const IMAGE_EXTENSIONS = ['png', 'tif', 'tiff', 'jpg', 'jpeg', 'exr', 'dpx'];

/** Files that belong together: one video, or numbered images that share everything but their number. */
export interface FileGroup {
  kind: 'video' | 'sequence';
  /** As shown to the user: the file name, or `name.[0001-0048].png`. */
  name: string;
  /** File names in frame order. */
  files: string[];
  /** printf pattern (sequences) or the file name. */
  input: string;
  startNumber: number | null;
}

const extensionOf = (name: string) => name.slice(name.lastIndexOf('.') + 1).toLowerCase();

/** Sorts file names into videos and image sequences; anything else, and any gap in a numbering, is refused by name. */
export function groupFiles(names: readonly string[]): FileGroup[] {
  const groups: FileGroup[] = [];
  const numbered = new Map<
    string,
    { prefix: string; suffix: string; numbers: { n: number; digits: string; file: string }[] }
  >();
  for (const file of names) {
    const extension = extensionOf(file);
    if (VIDEO_EXTENSIONS.includes(extension)) {
      groups.push({ kind: 'video', name: file, files: [file], input: file, startNumber: null });
      continue;
    }
    if (!IMAGE_EXTENSIONS.includes(extension))
      throw refusal(
        file,
        `“${file}” is neither a video nor an image of a known kind (${[...VIDEO_EXTENSIONS, ...IMAGE_EXTENSIONS].join(', ')}).`,
      );
    const match = /^(.*?)(\d+)(\.[^.]+)$/.exec(file);
    const [prefix, digits, suffix] = match ? [match[1]!, match[2]!, match[3]!] : [file, '', ''];
    const key = `${prefix}\0${suffix}`;
    const entry = numbered.get(key) ?? { prefix, suffix, numbers: [] };
    entry.numbers.push({ n: Number(digits || 0), digits, file });
    numbered.set(key, entry);
  }
  for (const { prefix, suffix, numbers } of numbered.values()) groups.push(sequenceOf(prefix, suffix, numbers));
  return groups;
}

const refusal = (path: string, message: string) => new Refused('refused-media', message, [{ path, message }]);

function sequenceOf(prefix: string, suffix: string, numbers: { n: number; digits: string; file: string }[]): FileGroup {
  numbers.sort((a, b) => a.n - b.n);
  const [first, last] = [numbers[0]!, numbers.at(-1)!];
  if (!suffix)
    return {
      kind: 'sequence',
      name: first.file,
      files: [first.file],
      input: first.file.replaceAll('%', '%%'),
      startNumber: 0,
    };
  const missing: number[] = [];
  for (let i = 1; i < numbers.length; i++) {
    if (numbers[i]!.n === numbers[i - 1]!.n)
      throw refusal(
        numbers[i]!.file,
        `Two files carry the number ${numbers[i]!.n}: “${numbers[i - 1]!.file}” and “${numbers[i]!.file}”.`,
      );
    for (let n = numbers[i - 1]!.n + 1; n < numbers[i]!.n && missing.length < 10; n++) missing.push(n);
  }
  const name = `${prefix}[${first.digits}-${last.digits}]${suffix}`;
  if (missing.length > 0)
    throw refusal(
      name,
      `“${name}” was not imported: frames are missing: ${missing.join(', ')}${missing.length === 10 ? ' …' : ''}.`,
    );
  const padded = new Set(numbers.map((x) => x.digits.length)).size === 1;
  if (!padded && numbers.some((x) => x.digits.length > 1 && x.digits.startsWith('0')))
    throw refusal(name, `“${name}” was not imported: its numbers have different lengths.`);
  const place = padded ? `%0${first.digits.length}d` : '%d';
  return {
    kind: 'sequence',
    name,
    files: numbers.map((x) => x.file),
    input: `${prefix.replaceAll('%', '%%')}${place}${suffix}`,
    startNumber: first.n,
  };
}
