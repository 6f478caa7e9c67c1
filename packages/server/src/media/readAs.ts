// The same files read in another way than they state: another media, which stands beside the first.
import { randomUUID } from 'node:crypto';
import type { Media, MediaId, Reading } from '@mellow/contract';
import { keepMedia, type StoredMedia } from '../db/media.ts';
import type { Queryable } from '../db/pool.ts';
import { Refused } from '../errors.ts';
import { isAssumption } from './statedColour.ts';

const isFloat = ({ bitDepth, pixelFormat }: Media): boolean => bitDepth >= 16 && /f(16|32)/.test(pixelFormat);

/** Throws Refused where footage cannot be read so. */
function assertReadable(media: Media, { matrix, range, isDeinterlaced }: Reading, stated: Media['stated'] & object) {
  const refuse = (why: string): never => {
    throw new Refused('conflict', `“${media.name}” ${why}`);
  };
  if ((matrix === 'gbr') !== (stated.matrix === 'gbr'))
    refuse(stated.matrix === 'gbr' ? 'holds RGB: it has no YCbCr matrix.' : 'holds no RGB: it has a YCbCr matrix.');
  if (range !== stated.range && isFloat(media)) refuse('holds floating-point samples, which have no range.');
  if (isDeinterlaced && media.fields === 'progressive') refuse('is not interlaced.');
}

/** The media of the same files that is read so: stored, or found. Throws Refused. */
export async function readAs(db: Queryable, { media, files }: StoredMedia, reading: Reading): Promise<StoredMedia> {
  const stated = media.stated ?? { matrix: media.matrix, range: media.range };
  assertReadable(media, reading, stated);
  const isAsStated = reading.matrix === stated.matrix && reading.range === stated.range;
  const notes = isAsStated ? media.notes : media.notes.filter((note) => !isAssumption(note));
  const read = { ...media, ...reading, notes, stated: isAsStated ? null : stated, id: randomUUID() as MediaId };
  return keepMedia(db, { media: read, files });
}
