// A drawn layer's path as files for other programs.
import type { Layer } from '@mellow/contract';
import { layerAt, pathOf, shapeDataOf, svgFromPath } from '@mellow/core';
import type { InHand } from '../../inhand/inHand.ts';
import { saveFile } from '../../ui/saveFile.ts';

/** Saves a shape's path on every frame of the shot, its placement and track in it. */
export function saveShapeFrames(layer: Layer | undefined, { media, motions }: InHand): void {
  if (layer?.kind !== 'shape' || !media) return;
  const size = { width: media.width, height: media.height };
  const data = shapeDataOf(layer.name, layer, media.frames, size, motions);
  saveFile(`${layer.name}.json`, JSON.stringify(data), 'application/json');
}

/** Saves a shape's path as it is on one frame. */
export function saveShapeSvg(layer: Layer, frame: number, { media, motions }: InHand): void {
  const now = layerAt(layer, frame, motions);
  if (now.kind !== 'shape') return;
  const box = `0 0 ${media?.width ?? 0} ${media?.height ?? 0}`;
  const path = `<path d="${svgFromPath(pathOf(now.geometry))}"/>`;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${box}">${path}</svg>\n`;
  saveFile(`${layer.name}-${frame}.svg`, svg, 'image/svg+xml');
}
