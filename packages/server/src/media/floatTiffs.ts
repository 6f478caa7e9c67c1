// TIFF files of floats, which ffmpeg does not read: they are kept as OpenEXR files of the same values.
import { readFile, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fromArrayBuffer, type GeoTIFFImage } from 'geotiff';
import { exrFile } from '../render/sinks/exrFile.ts';
import { refusedMedia } from './probed.ts';
import type { FileGroup } from './sequence.ts';

const EXTENSION = /\.tiff?$/i;
/** SampleFormat of TIFF 6.0, section 19: IEEE floating point. */
const IEEE_FLOAT = 3;
/** Names of the channels of a picture of so many samples a pixel, by which sample each is. */
const CHANNELS: Readonly<Record<number, Readonly<Record<string, number>>>> = {
  1: { R: 0, G: 0, B: 0 },
  2: { R: 0, G: 0, B: 0, A: 1 },
  3: { R: 0, G: 1, B: 2 },
  4: { R: 0, G: 1, B: 2, A: 3 },
};
const MOST_PIXELS = 2 ** 27;
/** Deflate makes a thousandth of what it packs at best, LZW less: a file that says it holds more is broken. */
const MOST_PACKED = 1032;
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
  if (!(await holdsFloats(join(folder, group.files[0]!.name)))) return { group, notes: [] };
  const renamed = (name: string): string => name.replace(EXTENSION, '.exr');
  for (const { name } of group.files) {
    const from = join(folder, name);
    await writeFile(join(folder, renamed(name)), await asExr(from, name));
    await rm(from);
  }
  const files = group.files.map(({ path, name }) => ({ path, name: renamed(name) }));
  return { group: { ...group, input: renamed(group.input), files }, notes: [IS_KEPT_AS] };
}

async function pictureIn(path: string): Promise<GeoTIFFImage> {
  const { buffer, byteOffset, byteLength } = await readFile(path);
  const bytes = buffer.slice(byteOffset, byteOffset + byteLength);
  return (await fromArrayBuffer(bytes)).getImage();
}
async function holdsFloats(path: string): Promise<boolean> {
  try {
    return (await pictureIn(path)).getSampleFormat() === IEEE_FLOAT;
  } catch {
    // what is wrong with it is said where it is looked at
    return false;
  }
}
async function asExr(path: string, name: string): Promise<Buffer> {
  const refuse = (why: string): never => {
    throw refusedMedia(name, why);
  };
  const picture = await pictureIn(path).catch(() => refuse('it is no TIFF.'));
  const [width, height, samples] = [picture.getWidth(), picture.getHeight(), picture.getSamplesPerPixel()];
  if (picture.getSampleFormat() !== IEEE_FLOAT) refuse('the TIFF files before it are of floats, and it is not.');
  if (width * height > MOST_PIXELS) refuse(`its size ${width} × ${height} is too large.`);
  const { size } = await stat(path);
  if (width * height * samples > MOST_PACKED * size) refuse('its samples are not all there.');
  const channels = CHANNELS[samples] ?? refuse(`it has ${samples} samples a pixel, and no picture has.`);
  const whole = (error: unknown) =>
    refuse(`its samples cannot be read (${error instanceof Error ? error.message : String(error)}).`);
  const planes = (await picture.readRasters({ interleave: false }).catch(whole)) as unknown as ArrayLike<number>[];
  const plane = (sample: number) => Float32Array.from(planes[sample]!);
  if (planes.some((p) => p.length !== width * height)) refuse('its samples are not all there.');
  return exrFile({
    width,
    height,
    samples: 'float',
    channels: Object.entries(channels).map(([channel, sample]) => ({ name: channel, plane: plane(sample) })),
  });
}
