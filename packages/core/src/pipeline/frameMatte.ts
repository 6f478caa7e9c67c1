// α of stacks and layers on a frame.
import type { CleanUp } from '../document/cleaning.ts';
import type { Layer } from '../document/layer.ts';
import { KEYS } from '../key/keys.ts';
import { putBack } from '../matte/bounds.ts';
import { isCleanUpOff } from '../matte/cleanUp.ts';
import type { LayerMatte } from '../matte/kind.ts';
import { cleanedStackMatteInto, layerMatteInto } from '../matte/stack.ts';
import { steadied } from '../matte/steady.ts';
import { supportOf } from '../matte/support.ts';
import type { SightingRender } from './sightingRender.ts';
import type { SourceFrame } from './sourceFrame.ts';

/** α of a sighting's stack on a frame, cleaned up, in a new plane. */
export function frameMatte(
  source: SourceFrame,
  layers: readonly Layer[],
  cleanUp?: CleanUp,
  layerMatte: LayerMatte = neededMatte(source, layers),
): Float32Array {
  const out = new Float32Array(source.codes.width * source.codes.height);
  cleanedStackMatteInto(out, layers, cleanUp, source.matteSource, layerMatte);
  return out;
}

/**
 * The layers' mattes as far as a stack needs them: a key looks no further than the stack can select, which is most of
 * its work.
 */
function neededMatte(source: SourceFrame, layers: readonly Layer[]): LayerMatte {
  const { width, height } = source.codes;
  const box = supportOf(layers, width, height, source.scale);
  if (!box) return () => new Float32Array(width * height);
  const part = (box.x1 - box.x0) * (box.y1 - box.y0) < width * height ? source.within(box) : undefined;
  const matteOf = (layer: Layer): Float32Array => {
    const looksAround = layer.cleanUp && !isCleanUpOff(layer.cleanUp);
    if (!part || looksAround || !(layer.kind in KEYS)) return ownMatte(source, layer, matteOf);
    const out = new Float32Array(width * height);
    putBack(out, width, ownMatte(part, layer), box);
    return out;
  };
  return matteOf;
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

/** A sighting on a frame near another. */
export interface Around {
  source: SourceFrame;
  sighting: SightingRender;
}
/**
 * α of a sighting on a frame, steadied over the frames around it (`steadyFrames` on either side, as far as the shot
 * goes).
 */
export function steadiedMatte(
  source: SourceFrame,
  sighting: SightingRender,
  around: readonly Around[],
  matteOf = (s: SourceFrame, r: SightingRender) => frameMatte(s, r.layers, r.cleanUp),
): Float32Array {
  const alpha = matteOf(source, sighting);
  if (!sighting.steadyFrames || around.length === 0) return alpha;
  const moment = (s: SourceFrame, a: Float32Array) => ({
    width: s.codes.width,
    height: s.codes.height,
    alpha: a,
    luma: s.luma(),
  });
  return steadied(
    moment(source, alpha),
    around.map((n) => moment(n.source, matteOf(n.source, n.sighting))),
  );
}
