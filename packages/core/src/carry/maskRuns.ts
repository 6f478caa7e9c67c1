import type { CarriedMask } from '../document/carried.ts';

/**
 * A mask in few bytes: width and height, then the lengths of the runs of pixels that are out and in by turns, row by
 * row, beginning with out. Numbers are unsigned LEB128, as in DWARF and WebAssembly.
 */
export function bytesOfMask({ width, height, inside }: CarriedMask): Uint8Array {
  const out: number[] = [];
  const put = (value: number) => {
    let v = value;
    while (v >= 0x80) {
      out.push((v & 0x7f) | 0x80);
      v = Math.floor(v / 128);
    }
    out.push(v);
  };
  put(width);
  put(height);
  let value = 0;
  let length = 0;
  for (const v of inside) {
    if (v !== value) {
      put(length);
      value = v;
      length = 0;
    }
    length++;
  }
  put(length);
  return Uint8Array.from(out);
}

const MOST_PIXELS = 2 ** 24;
/** The mask of such bytes. Throws RangeError where they do not make one. */
export function maskOfBytes(bytes: Uint8Array): CarriedMask {
  let at = 0;
  const next = (): number => {
    let [value, scale] = [0, 1];
    for (;;) {
      const byte = bytes[at++];
      if (byte === undefined || scale > 2 ** 28) throw new RangeError('a mask ends before it is complete');
      value += (byte & 0x7f) * scale;
      if (byte < 0x80) return value;
      scale *= 128;
    }
  };
  const [width, height] = [next(), next()];
  if (width < 1 || height < 1 || width * height > MOST_PIXELS) throw new RangeError('a mask of no possible size');
  const inside = new Uint8Array(width * height);
  let filled = 0;
  for (let value = 0; filled < inside.length; value = 1 - value) {
    const length = next();
    if (filled + length > inside.length) throw new RangeError('a mask that is longer than its size');
    inside.fill(value, filled, filled + length);
    filled += length;
  }
  return { width, height, inside };
}
