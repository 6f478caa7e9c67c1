import { steadied } from '../matte/steady.ts';
import { frameMatte } from './frameMatte.ts';
import type { SightingRender } from './sightingRender.ts';
import type { SourceFrame } from './sourceFrame.ts';

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
