// α of stacks and layers on a frame.
import type { CleanUp } from '../document/cleaning.ts';
import type { Layer } from '../document/layer.ts';
import { KEYS } from '../key/keys.ts';
import { cutOut, putBack, type PixelBox } from '../matte/bounds.ts';
import { isCleanUpOff, NO_CLEAN_UP } from '../matte/cleanUp.ts';
import { cleanUpWithin } from '../matte/cleanUpWithin.ts';
import type { LayerMatte } from '../matte/kind.ts';
import { cleanUpStackInPlace, layerMatteInto, soleLayer, stackMatteInto } from '../matte/stack.ts';
import { supportOf } from '../matte/support.ts';
import type { SourceFrame } from './sourceFrame.ts';

/**
 * α of a sighting's stack on a frame, cleaned up, in a new plane. `layerMatte` gives the layers' own α over the whole
 * frame; left out, they are computed as far as the stack can select anything, which gives the same.
 */
export function frameMatte(
  source: SourceFrame,
  layers: readonly Layer[],
  cleanUp?: CleanUp,
  layerMatte?: LayerMatte,
): Float32Array {
  const { width, height } = source.codes;
  const out = new Float32Array(width * height);
  const box = supportOf(layers, width, height, source.scale);
  if (layerMatte) stackMatteInto(out, layers, layerMatte);
  else if (box) supportedStackInto(out, source, layers, box);
  const isDone = box && cleanUpWithin(out, box, cleanUp ?? NO_CLEAN_UP, source.matteSource);
  if (!isDone) cleanUpStackInPlace(out, layers, cleanUp, source.matteSource);
  return out;
}

/** A stack, looked at only where it can select anything. */
function supportedStackInto(out: Float32Array, source: SourceFrame, layers: readonly Layer[], box: PixelBox): void {
  const { width, height } = source.codes;
  const isWhole = box.x1 - box.x0 === width && box.y1 - box.y0 === height;
  const each = (layer: Layer) => ownMatte(source, layer);
  const sole = soleLayer(layers);
  // no copy of it
  if (isWhole && sole) return layerMatteInto(out, sole, source.matteSource, each);
  if (isWhole) return stackMatteInto(out, layers, each);
  const part = source.within(box);
  const matteOf = (layer: Layer): Float32Array => {
    const looksAround = layer.cleanUp && !isCleanUpOff(layer.cleanUp);
    const isLocal = layer.kind in KEYS || layer.kind === 'group';
    return isLocal && !looksAround ? ownMatte(part, layer, matteOf) : cutOut(ownMatte(source, layer), width, box);
  };
  const alpha = new Float32Array(part.codes.width * part.codes.height);
  stackMatteInto(alpha, layers, matteOf);
  putBack(out, width, alpha, box);
}

/** α of one layer on a frame, in a new plane. */
export function ownMatte(
  source: SourceFrame,
  layer: Layer,
  inner: LayerMatte = (each) => ownMatte(source, each),
): Float32Array {
  const { width, height } = source.codes;
  const out = new Float32Array(width * height);
  layerMatteInto(out, layer, source.matteSource, inner);
  return out;
}
