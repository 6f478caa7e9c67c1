// TIFF files of floats, which ffmpeg does not read: they are kept as OpenEXR files of the same values.
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { fromFile } from 'geotiff';
import { asExr } from './rewriting.ts';
import type { FileGroup } from './sequence.ts';
import { IEEE_FLOAT } from './tiffAsExr.ts';

const EXTENSION = /\.tiff?$/i;
const IS_KEPT_AS = 'A TIFF of floats: it is kept as OpenEXR of the same values, and taken for linear light.';

interface Readable {
  group: FileGroup;
  notes: string[];
}
/**
 * The same footage as ffmpeg reads it: files of a folder that are TIFFs of floats are replaced by OpenEXR files. Throws
 * Refused where one cannot be read.
 */
export async function readable(group: FileGroup, folder: string): Promise<Readable> {
  if (group.kind !== 'sequence' || !EXTENSION.test(group.input)) return { group, notes: [] };
  if (!(await isOfFloats(join(folder, group.files[0]!.name)))) return { group, notes: [] };
  const renamed = (name: string): string => name.replace(EXTENSION, '.exr');
  for (const { name } of group.files) {
    const from = join(folder, name);
    await asExr({ path: from, name }, join(folder, renamed(name)));
    await rm(from);
  }
  const files = group.files.map(({ path, name }) => ({ path, name: renamed(name) }));
  return { group: { ...group, input: renamed(group.input), files }, notes: [IS_KEPT_AS] };
}

async function isOfFloats(path: string): Promise<boolean> {
  try {
    const tiff = await fromFile(path);
    try {
      return (await tiff.getImage()).getSampleFormat() === IEEE_FLOAT;
    } finally {
      await tiff.close();
    }
  } catch {
    // what is wrong with it is said where it is looked at
    return false;
  }
}
