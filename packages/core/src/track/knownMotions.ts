import type { Geometry } from '../document/geometry.ts';
import type { StoredTrack } from '../document/track.ts';
import { coverageInto } from '../shape/coverage.ts';
import { boundsOf } from '../shape/edit.ts';
import { featheredPolygon, pathOf } from '../shape/path.ts';
import type { Flex } from './flex.ts';
import { homographyOfQuads, type Homography, type Quad } from './homography.ts';
import type { Mask } from './planeTracker.ts';
import type { KnownMotion, TrackMotion } from './trackMotion.ts';

export interface FoundFrame {
  frame: number;
  motion: Homography;
  confidence: number;
  flex?: Flex | undefined;
}

/** Corners of a region's bounding box: top left, top right, bottom right, bottom left. */
export function regionQuad(region: Geometry): Quad {
  const { x0, y0, x1, y1 } = boundsOf(region);
  return [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ];
}

/**
 * What is known of a track's motion: later runs replace earlier ones frame by frame, keyframes by hand replace both.
 */
export function knownMotions(track: StoredTrack, found: (runId: string) => readonly FoundFrame[]): TrackMotion {
  const quad = regionQuad(track.region);
  const known = new Map<number, KnownMotion>();
  for (const { id, first, last } of track.runs)
    for (const f of found(id))
      if (f.frame >= first && f.frame <= last)
        known.set(f.frame, {
          motion: f.motion,
          confidence: f.confidence,
          by: 'track',
          ...(f.flex && { flex: f.flex }),
        });
  for (const { frame, corners } of track.manual) {
    const motion = homographyOfQuads(quad, corners);
    if (motion) known.set(frame, { motion, confidence: 1, by: 'hand' });
  }
  return { referenceFrame: track.referenceFrame, quad, known };
}

/** The pixels a closed path covers by half or more. */
export function maskOf(geometry: Geometry, width: number, height: number): Mask {
  const coverage = new Float32Array(width * height);
  const path = pathOf(geometry);
  if (path.length >= 3) coverageInto(coverage, width, height, featheredPolygon(path).polygon);
  const inside = new Uint8Array(coverage.length);
  for (let i = 0; i < inside.length; i++) inside[i] = coverage[i]! >= 0.5 ? 1 : 0;
  return { width, height, inside };
}
