import { cutOut, putBack } from '../matte/bounds.ts';
import { frameMatte } from './frameMatte.ts';
import type { CodePicture } from './picture.ts';
import { plainCodes } from './plainCodes.ts';
import { plainRecolours } from './plainFrame.ts';
import { asFloats, renderFrame, type RenderAs } from './renderFrame.ts';
import { looksFurther, selectedBox } from './region.ts';
import type { SightingRender } from './sightingRender.ts';
import type { SourceFrame, Tables } from './sourceFrame.ts';

/**
 * The codes of `renderFrame`, and the same to the bit, computed only where the mattes select something: the rest of the
 * picture is copied. What looks further than a pixel's neighbours (spill, texture, sheen, a colour outside all mattes),
 * and what changes every pixel (balance, another encoding), is computed on the whole.
 */
export function renderCodes(
  source: SourceFrame,
  sightings: readonly SightingRender[],
  tables: Tables,
  matteOf: (sighting: SightingRender, index: number) => Float32Array = (s) => frameMatte(source, s.layers, s.cleanUp),
  as: RenderAs = {},
): CodePicture {
  const mattes = sightings.map((s, i) => matteOf(s, i));
  const isLocal = !source.isBalanced && (as.encoding ?? source.encoding) === source.encoding;
  if (!isLocal || sightings.some(looksFurther))
    return renderFrame(source, sightings, tables, (_, i) => mattes[i]!, as).codes;
  const plain = as.samples === 'float' ? undefined : plainRecolours(source, sightings, mattes);
  const straight = plain && plainCodes(source, plain, tables);
  if (straight) return straight;
  const { width, height } = source.codes;
  const from = as.samples === 'float' ? asFloats(source.codes) : source.codes;
  const out = { width, height, r: from.r.slice(), g: from.g.slice(), b: from.b.slice() };
  const box = selectedBox(mattes, width, height);
  if (!box) return out;
  const cut = mattes.map((alpha) => cutOut(alpha, width, box));
  const { codes } = renderFrame(source.within(box), sightings, tables, (_, i) => cut[i]!, as);
  for (const channel of ['r', 'g', 'b'] as const) putBack(out[channel], width, codes[channel], box);
  return out;
}
