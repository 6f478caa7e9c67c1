// From codes and mattes to what the screen shows: 8-bit sRGB.
import {
  hasOwnPrimaries,
  linearFromCode,
  linearPlanesOf,
  maxCodeOf,
  rgbaOfCodes,
  srgbCodeFromLinear,
  type CodePicture,
  type Encoding,
  type LinearPlanes,
  type PixelBox,
} from '@mellow/core';
import { LRUCache } from 'lru-cache';
import type { Picture } from './frameProtocol.ts';

/** sRGB codes of each code of an encoding of BT.709 primaries, at so many stops brighter. */
function tableOf(encoding: Encoding, maxCode: number, gain: number): Uint8ClampedArray {
  return Uint8ClampedArray.from({ length: maxCode + 1 }, (_, code) =>
    Math.round(255 * srgbCodeFromLinear(linearFromCode(encoding, code / maxCode) * gain)),
  );
}
/** What was looked up last: one looks at the shots of one film through one of a few exposures. */
const tables = new LRUCache<string, Uint8ClampedArray>({ max: 8 });
function screenTable(encoding: Encoding, maxCode: number, gain: number): Uint8ClampedArray {
  const name = `${encoding} ${maxCode} ${gain}`;
  const table = tables.get(name) ?? tableOf(encoding, maxCode, gain);
  tables.set(name, table);
  return table;
}
/** Linear light 0..1 as sRGB codes, finer than 8 bits can show: for colours that must be mixed first. */
const LIGHT_STEPS = 1 << 16;
let lightTable: Uint8ClampedArray | undefined;
const codesOfLight = (): Uint8ClampedArray => (lightTable ??= tableOf('linear709', LIGHT_STEPS, 1));

/** A picture on an sRGB screen, so many stops brighter. What the screen has not is clipped. */
export function onScreen(picture: CodePicture, encoding: Encoding, stops = 0): Picture {
  const { width, height } = picture;
  const gain = 2 ** stops;
  // codes of the screen's own primaries are looked up; all else goes by its light
  const isLookedUp = !(picture.r instanceof Float32Array) && !hasOwnPrimaries(encoding);
  const rgba = isLookedUp
    ? rgbaOfCodes(picture, screenTable(encoding, maxCodeOf(picture.r), gain))
    : rgbaOfLight(linearPlanesOf(picture, encoding), gain);
  return { rgba, width, height };
}
function rgbaOfLight({ r, g, b }: LinearPlanes, gain: number): Uint8ClampedArray<ArrayBuffer> {
  const table = codesOfLight();
  const by = gain * LIGHT_STEPS;
  const rgba = new Uint8ClampedArray(4 * r.length).fill(255);
  for (let i = 0, j = 0; i < r.length; i++, j += 4) {
    rgba[j] = table[Math.min(Math.max(r[i]! * by + 0.5, 0), LIGHT_STEPS) | 0]!;
    rgba[j + 1] = table[Math.min(Math.max(g[i]! * by + 0.5, 0), LIGHT_STEPS) | 0]!;
    rgba[j + 2] = table[Math.min(Math.max(b[i]! * by + 0.5, 0), LIGHT_STEPS) | 0]!;
  }
  return rgba;
}

/**
 * A smaller picture: each pixel the mean of those it stands for, of their codes. `high`: its height, where that is not
 * to follow from its width.
 */
export function scaledPicture({ rgba, width, height }: Picture, to: number, high?: number): Picture {
  const wide = Math.min(to, width);
  const tall = high ?? Math.max(Math.round((wide * height) / width), 1);
  const out = new Uint8ClampedArray(wide * tall * 4);
  for (let y = 0; y < tall; y++)
    for (let x = 0; x < wide; x++) {
      const [x0, x1] = [Math.floor((x * width) / wide), Math.max(Math.floor(((x + 1) * width) / wide), 1)];
      const [y0, y1] = [Math.floor((y * height) / tall), Math.max(Math.floor(((y + 1) * height) / tall), 1)];
      const sum = [0, 0, 0, 0];
      for (let v = y0; v < y1; v++)
        for (let u = x0; u < x1; u++) for (let c = 0; c < 4; c++) sum[c] = sum[c]! + rgba[4 * (v * width + u) + c]!;
      for (let c = 0; c < 4; c++) out[4 * (y * wide + x) + c] = sum[c]! / ((x1 - x0) * (y1 - y0));
    }
  return { rgba: out, width: wide, height: tall };
}

/** A part of a picture. */
export function croppedPicture({ rgba, width }: Picture, { x0, y0, x1, y1 }: PixelBox): Picture {
  const [w, h] = [x1 - x0, y1 - y0];
  const out = new Uint8ClampedArray(w * h * 4);
  for (let y = 0; y < h; y++)
    out.set(rgba.subarray(4 * ((y + y0) * width + x0), 4 * ((y + y0) * width + x1)), 4 * y * w);
  return { rgba: out, width: w, height: h };
}

export function greyOnScreen(alpha: Float32Array, width: number, height: number): Picture {
  const rgba = new Uint8ClampedArray(width * height * 4);
  for (let i = 0, j = 0; i < alpha.length; i++, j += 4) {
    rgba[j] = rgba[j + 1] = rgba[j + 2] = alpha[i]! * 255;
    rgba[j + 3] = 255;
  }
  return { rgba, width, height };
}

/** What is selected: a light violet no garment or product has. What the spill control takes: a pale yellow-green. */
export const TINT = [214, 92, 255] as const;
export const SPILL_TINT = [226, 255, 92] as const;
/** Lays a colour over the picture by α × strength, in place. */
export function tintInPlace(
  { rgba }: Picture,
  alpha: Float32Array,
  [r, g, b]: readonly [number, number, number],
  strength: number,
): void {
  for (let i = 0, j = 0; i < alpha.length; i++, j += 4) {
    const a = alpha[i]! * strength;
    if (a === 0) continue;
    rgba[j] = rgba[j]! * (1 - a) + r * a;
    rgba[j + 1] = rgba[j + 1]! * (1 - a) + g * a;
    rgba[j + 2] = rgba[j + 2]! * (1 - a) + b * a;
  }
}

/** L* 50, 0 and 100 as sRGB codes. */
const GROUND = { grey: 119, black: 0, white: 255 } as const;
/** The picture where α is, a plain ground elsewhere, in place. */
export function cutOutInPlace({ rgba }: Picture, alpha: Float32Array, ground: keyof typeof GROUND): void {
  const g = GROUND[ground];
  for (let i = 0, j = 0; i < alpha.length; i++, j += 4) {
    const a = alpha[i]!;
    for (let c = 0; c < 3; c++) rgba[j + c] = g + (rgba[j + c]! - g) * a;
  }
}

/** Differences are small: four times as strong they can be seen. */
const DIFFERENCE_GAIN = 4;
/** |b − a| × 4 per channel, on black. */
export function difference(a: Picture, b: Picture): Picture {
  const rgba = new Uint8ClampedArray(a.rgba.length);
  for (let j = 0; j < rgba.length; j++)
    rgba[j] = j % 4 === 3 ? 255 : Math.abs(b.rgba[j]! - a.rgba[j]!) * DIFFERENCE_GAIN;
  return { rgba, width: a.width, height: a.height };
}

/** How far in OKLab's a, b a pixel may lie from the place pointed at in the key field. */
const NEAR = 0.012;
/** Dims all but the pixels near a place of the a, b plane, in place. */
export function markNearInPlace(
  { rgba }: Picture,
  a: Float32Array,
  b: Float32Array,
  at: { a: number; b: number },
): void {
  for (let i = 0, j = 0; i < a.length; i++, j += 4) {
    const hit = (a[i]! - at.a) ** 2 + (b[i]! - at.b) ** 2 < NEAR * NEAR;
    for (let c = 0; c < 3; c++) rgba[j + c] = hit ? 255 : rgba[j + c]! * 0.35;
  }
}
