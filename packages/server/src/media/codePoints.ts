// Code points of Rec. ITU-T H.273 (tables 2 and 3) for the encodings that have them.
import { ENCODING_NAMES, ENCODINGS, type Encoding } from '@mellow/core';

/** By ffmpeg's words. */
const PRIMARIES: Readonly<Record<string, number>> = { bt709: 1, bt2020: 9, smpte432: 12 };
const TRANSFERS: Readonly<Record<string, number>> = {
  bt709: 1,
  linear: 8,
  'iec61966-2-1': 13,
  'bt2020-10': 14,
  smpte2084: 16,
  'arib-std-b67': 18,
};
interface CodePoints {
  primaries: number;
  transfer: number;
}

/** Those of an encoding; undefined where it has none. */
export function codePointsOf(encoding: Encoding): CodePoints | undefined {
  const { tags } = ENCODINGS[encoding];
  const [primaries, transfer] = [PRIMARIES[tags.primaries], TRANSFERS[tags.transfer]];
  return primaries === undefined || transfer === undefined ? undefined : { primaries, transfer };
}
/** The encoding that has them; undefined where none has. */
export const encodingOfCodePoints = ({ primaries, transfer }: CodePoints): Encoding | undefined =>
  ENCODING_NAMES.find((name) => {
    const own = codePointsOf(name);
    return own?.primaries === primaries && own.transfer === transfer;
  });
