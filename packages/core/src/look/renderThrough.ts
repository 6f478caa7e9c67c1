import { encodedFromLinear709 } from '../colour/encoding.ts';
import { codesFromEncoded, linearPlanesOf, type CodePicture } from '../pipeline/picture.ts';
import { renderFrame, type RenderAs } from '../pipeline/renderFrame.ts';
import type { SightingRender } from '../pipeline/sightingRender.ts';
import type { SourceFrame, Tables } from '../pipeline/sourceFrame.ts';
import { throughLook, type Look } from './lookInto.ts';

/**
 * A frame rendered and seen through a look: in the source's own encoding, where looks are at home, unrounded; then in
 * the one wanted. Every pixel is written anew.
 */
export function renderThrough(
  look: Look,
  source: SourceFrame,
  sightings: readonly SightingRender[],
  tables: Tables,
  matteOf?: (sighting: SightingRender, index: number) => Float32Array,
  { encoding = source.encoding, samples = 'as the source' }: RenderAs = {},
): CodePicture {
  const rendered = renderFrame(source, sightings, tables, matteOf, { samples: 'float' }).codes;
  const seen = throughLook(rendered, look);
  const { width, height } = seen;
  const planes =
    encoding === source.encoding
      ? { r: seen.r as Float32Array, g: seen.g as Float32Array, b: seen.b as Float32Array }
      : encodedFromLinear709(linearPlanesOf(seen, source.encoding, tables.decode), encoding, tables.encode(encoding));
  if (samples === 'float') return { width, height, ...planes };
  const codes = (plane: Float32Array) => codesFromEncoded(source.codes.r, plane);
  return { width, height, r: codes(planes.r), g: codes(planes.g), b: codes(planes.b) };
}
