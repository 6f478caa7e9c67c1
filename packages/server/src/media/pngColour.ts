// What a PNG says of its colour, written and read: ISO/IEC 15948 (PNG, second edition) for gAMA, cHRM and sRGB, and
// W3C's “Portable Network Graphics (PNG) Specification (Third Edition)” for cICP, which carries the code points of Rec.
// ITU-T H.273.
import { crc32 } from 'node:zlib';
import { ENCODINGS, type Encoding } from '@mellow/core';
import { codePointsOf, encodingOfCodePoints } from './codePoints.ts';

const [RGB, FULL_RANGE] = [0, 1];
const PERCEPTUAL = 0;
/** The exponent of a code for its light, ×100000, for readers that know no cICP; that of BT.1886 is 2.4. */
const GAMMAS: Readonly<Record<string, number>> = {
  bt709: Math.round(100_000 / 2.4),
  'bt2020-10': Math.round(100_000 / 2.4),
  linear: 100_000,
  'iec61966-2-1': 45_455,
};

function chunk(type: string, data: Buffer): Buffer {
  const named = Buffer.concat([Buffer.from(type, 'latin1'), data]);
  const whole = Buffer.alloc(8 + named.length);
  whole.writeUInt32BE(data.length, 0);
  named.copy(whole, 4);
  whole.writeUInt32BE(crc32(named), 4 + named.length);
  return whole;
}
function numbers(...values: number[]): Buffer {
  const bytes = Buffer.alloc(4 * values.length);
  values.forEach((v, i) => bytes.writeUInt32BE(v, 4 * i));
  return bytes;
}

/** The chunks that say an encoding; none where H.273 has no code points for it. */
function colourChunks(encoding: Encoding): Buffer[] {
  const { primaries, tags } = ENCODINGS[encoding];
  const points = codePointsOf(encoding);
  if (!points) return [];
  const gamma = GAMMAS[tags.transfer];
  const isSrgb = encoding === 'srgb';
  const { white, red, green, blue } = primaries;
  const chromaticities = [...white, ...red, ...green, ...blue].map((v) => Math.round(v * 100_000));
  return [
    chunk('cICP', Buffer.from([points.primaries, points.transfer, RGB, FULL_RANGE])),
    ...(gamma === undefined ? [] : [chunk('gAMA', numbers(gamma)), chunk('cHRM', numbers(...chromaticities))]),
    ...(isSrgb ? [chunk('sRGB', Buffer.from([PERCEPTUAL]))] : []),
  ];
}

/** The encoding that a PNG says by its cICP, given its first bytes; undefined where it says none that is known. */
export function encodingOfPng(head: Buffer): Encoding | undefined {
  for (let at = SIGNATURE_AND_HEADER; at + 12 <= head.length; at += 12 + head.readUInt32BE(at)) {
    const type = head.toString('latin1', at + 4, at + 8);
    if (type === 'IDAT') return undefined;
    if (type === 'cICP') return encodingOfCodePoints({ primaries: head[at + 8]!, transfer: head[at + 9]! });
  }
  return undefined;
}

const SIGNATURE_AND_HEADER = 8 + 25;
const OF_COLOUR = new Set(['cICP', 'gAMA', 'cHRM', 'sRGB']);
/** The same PNG, saying which encoding its codes are in instead of what it said. */
export function pngInEncoding(png: Buffer, encoding: Encoding): Buffer {
  const parts = [png.subarray(0, SIGNATURE_AND_HEADER), ...colourChunks(encoding)];
  let at = SIGNATURE_AND_HEADER;
  while (at < png.length) {
    const type = png.toString('latin1', at + 4, at + 8);
    // the picture and all that follows it stay in one piece
    const end = type === 'IDAT' ? png.length : at + 12 + png.readUInt32BE(at);
    if (!OF_COLOUR.has(type)) parts.push(png.subarray(at, end));
    at = end;
  }
  return Buffer.concat(parts);
}
