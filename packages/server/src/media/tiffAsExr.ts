// A TIFF file of floats as an OpenEXR file.
import { readFile, stat, writeFile } from 'node:fs/promises';
import { fromArrayBuffer, type GeoTIFFImage } from 'geotiff';
import { exrFile } from '../render/sinks/exrFile.ts';
import { refusedMedia } from './probed.ts';
import type { IncomingFile } from './sequence.ts';

/** SampleFormat of TIFF 6.0, section 19: IEEE floating point. */
export const IEEE_FLOAT = 3;
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

async function pictureIn(path: string): Promise<GeoTIFFImage> {
  const { buffer, byteOffset, byteLength } = await readFile(path);
  const bytes = buffer.slice(byteOffset, byteOffset + byteLength);
  return (await fromArrayBuffer(bytes)).getImage();
}
/** Writes a TIFF of floats as an OpenEXR of the same values. Throws Refused where it cannot be read. */
export async function tiffAsExr({ path, name }: IncomingFile, to: string): Promise<void> {
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
  const named = Object.entries(channels).map(([channel, sample]) => ({ name: channel, plane: plane(sample) }));
  await writeFile(to, await exrFile({ width, height, samples: 'float', channels: named }));
}
