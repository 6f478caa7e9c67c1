// An OpenEXR that holds nothing but mattes, taken apart.
import { randomUUID } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { exrFile } from '../render/sinks/exrFile.ts';
import { exrChannelNames, exrPlanes } from './exrChannels.ts';
import { refusedMedia } from './probed.ts';
import type { IncomingFile } from './sequence.ts';

/** Channels that ffmpeg reads, by themselves or behind a layer's name: such a file is a picture. */
const OF_PICTURES = /(^|\.)(R|G|B|A|Y|RY|BY)$/;
const ofMattes = (names: readonly string[]): boolean => names.length > 0 && !names.some((n) => OF_PICTURES.test(n));

/** `mattes.0012.exr`, channel Coat: `mattes.Coat.0012.exr`; numbers stay where they are looked for. */
function nameOf(file: string, channel: string): string {
  const [, stem = file, number = '', extension = ''] = /^(.*?)(\d*)(\.[^.]+)$/.exec(file) ?? [];
  const plain = channel.replaceAll(/[\\/\0]/g, '-');
  return `${stem.replace(/[._-]$/, '')}.${plain}.${number || '0'}${extension}`;
}

/**
 * The channels of an OpenEXR as grey pictures of their own in a folder; undefined where it is a picture. Throws Refused
 * for one that cannot be read.
 */
export async function mattesApart({ path, name }: IncomingFile, folder: string): Promise<IncomingFile[] | undefined> {
  const bytes = await readFile(path);
  if (!ofMattes(exrChannelNames(bytes))) return undefined;
  const { width, height, channels } = planesOf(bytes, name);
  return Promise.all(
    channels.map(async ({ name: channel, plane }): Promise<IncomingFile> => {
      const own = { path: join(folder, randomUUID()), name: nameOf(name, channel) };
      const grey = ['R', 'G', 'B'].map((of) => ({ name: of, plane }));
      await writeFile(own.path, await exrFile({ width, height, samples: 'float', channels: grey }));
      return own;
    }),
  );
}
function planesOf(bytes: Buffer, name: string) {
  try {
    return exrPlanes(bytes);
  } catch (error) {
    if (error instanceof RangeError) throw refusedMedia(name, `it ${wordsOf(error)}.`);
    throw error;
  }
}
/** Reading past the end says so in words of its own. */
const wordsOf = ({ message }: RangeError): string =>
  /^(has|is|holds|names|breaks)/.test(message) ? message : 'breaks off';
