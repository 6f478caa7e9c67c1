// The part of a picture that recolours have to do with: the rest of it need not be looked at.
import { boundsOfFinished, cutOut, sharedBox, unitedBox, type PixelBox } from '../matte/bounds.ts';
import type { SightingRender } from './sightingRender.ts';
import type { SourceFrame } from './sourceFrame.ts';

/** The pixels round a matte that its edge is told from. */
const MARGIN = 2;
/** Where most of a picture is looked at, cutting it out costs more than it spares. */
const MOST_OF_PICTURE = 0.7;

/** How far from its matte a recolour looks and works, pixels; Infinity: over the whole picture. */
export function reachOf({ program, spill }: SightingRender, scale: number): number {
  if (program.outside ?? program.texture ?? program.sheen) return Infinity;
  if (!spill || spill.mode === 'off') return MARGIN;
  // as findSpill looks for surroundings; what it is kept to is placed in the whole picture
  return spill.mode === 'remove' && !spill.within ? MARGIN + Math.ceil(2 * spill.reachPx * scale) : Infinity;
}
/** Does a recolour look further than a pixel's neighbours? */
export const looksFurther = (sighting: SightingRender): boolean => reachOf(sighting, 1) > MARGIN;

/** What any of the mattes selects, grown by `reach` pixels; undefined for nothing. */
export function selectedBox(
  mattes: readonly Float32Array[],
  width: number,
  height: number,
  reach = MARGIN,
): PixelBox | undefined {
  const boxes = mattes.flatMap((alpha) => boundsOfFinished(alpha, width, height) ?? []);
  if (boxes.length === 0) return undefined;
  const { x0, y0, x1, y1 } = boxes.reduce(unitedBox);
  const grown = { x0: x0 - reach, y0: y0 - reach, x1: x1 + reach, y1: y1 + reach };
  return sharedBox(grown, { x0: 0, y0: 0, x1: width, y1: height });
}

/** A part of a frame, as a frame of its own, and of the mattes on it. */
export interface Region {
  box: PixelBox;
  part: SourceFrame;
  mattes: Float32Array[];
}
/** What was cut out of a frame last: recolours change more often than mattes do. */
const last = new WeakMap<SourceFrame, { of: readonly Float32Array[]; region: Region }>();

/**
 * The part of a frame outside which no recolour changes anything, with all that they look at; undefined where that is
 * most of it, or nothing.
 */
export function regionOf(
  source: SourceFrame,
  sightings: readonly SightingRender[],
  mattes: readonly Float32Array[],
): Region | undefined {
  const { width, height } = source.codes;
  const reach = Math.max(0, ...sightings.map((s) => reachOf(s, source.scale)));
  if (source.isBalanced || reach === Infinity) return undefined;
  const box = selectedBox(mattes, width, height, reach);
  if (!box || (box.x1 - box.x0) * (box.y1 - box.y0) > MOST_OF_PICTURE * width * height) return undefined;
  const known = last.get(source);
  const isSame =
    known && known.of.length === mattes.length && mattes.every((m, k) => m === known.of[k]) && isBox(known.region, box);
  if (isSame) return known.region;
  const region = { box, part: source.within(box), mattes: mattes.map((alpha) => cutOut(alpha, width, box)) };
  last.set(source, { of: mattes, region });
  return region;
}
const isBox = ({ box }: Region, other: PixelBox): boolean =>
  box.x0 === other.x0 && box.y0 === other.y0 && box.x1 === other.x1 && box.y1 === other.y1;
