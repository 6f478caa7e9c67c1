import type { Layer, Track } from '@mellow/contract';
import type { Keyframe, NumberKeyframe } from '@mellow/core';
import type { InHand } from '../../inhand/inHand.ts';
import type { Lane, Strip } from '../../viewer/lanes.ts';
import { nameInWords } from '../../keyframing/names.ts';
import type { Stack } from './useStack.ts';
import type { Tracks } from './useTracks.ts';

/** Lanes of what is animated in the layer and stack in hand, and of the track in hand. */
export function lanesOf(stack: Stack, tracks: Tracks, { sighting }: InHand): Lane[] {
  const lanes: Lane[] = [];
  const layer = stack.layer && stack.storedLayer(stack.layer.id);
  if (layer) {
    if (layer.kind === 'shape' && layer.paths)
      lanes.push({
        id: `${layer.id} path`,
        label: `${layer.name}: path`,
        keys: layer.paths,
        put: (step, keys) =>
          stack.putLayer(step, {
            ...layer,
            paths: keys.length > 0 ? keys : undefined,
            geometry: keys.length > 0 ? layer.geometry : (stack.layer as typeof layer).geometry,
          } as Layer),
      });
    for (const [name, keys] of Object.entries(layer.animated ?? {}))
      lanes.push({
        id: `${layer.id} ${name}`,
        label: `${layer.name}: ${nameInWords(name)}`,
        keys,
        put: (step, next) => {
          const { [name]: _gone, ...rest } = layer.animated!;
          const animated = next.length > 0 ? { ...rest, [name]: next as NumberKeyframe[] } : rest;
          stack.putLayer(step, {
            ...layer,
            animated: Object.keys(animated).length > 0 ? animated : undefined,
          });
        },
      });
  }
  for (const [name, keys] of Object.entries(sighting?.animated ?? {}))
    lanes.push({
      id: `sighting ${name}`,
      label: `Stack: ${nameInWords(name)}`,
      keys,
      put: (step, next) => {
        const { [name]: _gone, ...rest } = sighting!.animated;
        stack.saveSighting(step, { animated: next.length > 0 ? { ...rest, [name]: next as NumberKeyframe[] } : rest });
      },
    });
  const { track } = tracks;
  if (track) {
    if (track.manual.length > 0)
      lanes.push({
        id: `${track.id} manual`,
        label: `${track.name}: by hand`,
        keys: track.manual.map((m) => ({ frame: m.frame, value: m.corners, ease: 'linear' as const })),
        put: (step, keys) =>
          tracks.save(step, {
            ...track,
            manual: keys.map((k) => ({ frame: k.frame, corners: k.value as Track['manual'][number]['corners'] })),
          }),
      });
    for (const h of track.holdOuts)
      if (h.paths)
        lanes.push({
          id: `${track.id} ${h.id}`,
          label: `${h.name}: path`,
          keys: h.paths,
          put: (step, keys) =>
            tracks.save(step, {
              ...track,
              holdOuts: track.holdOuts.map((x) =>
                x.id === h.id
                  ? { ...x, paths: keys.length > 0 ? (keys as Keyframe<typeof x.geometry>[]) : undefined }
                  : x,
              ),
            }),
        });
  }
  return lanes;
}

/** Confidence of the track in hand, frame by frame. */
export function stripsOf({ track, motion, runs }: Tracks, frames: number): Strip[] {
  if (!track || !motion) return [];
  const stops = runs
    .filter((r) => track.runs.some((x) => x.id === r.runId))
    .flatMap((r) =>
      r.stopped && !motion.known.has(r.stopped.frame)
        ? [{ frame: r.stopped.frame, text: `stopped: ${r.stopped.reason}` }]
        : [],
    );
  const confidenceOn = (frame: number): number | undefined => {
    if (frame === track.referenceFrame) return 1;
    const known = motion.known.get(frame);
    return known?.by === 'track' ? known.confidence : undefined;
  };
  return [
    {
      label: `${track.name}: confidence`,
      title: 'Confidence of the track per frame; full bars are frames set by hand',
      values: Array.from({ length: frames }, (_, f) => confidenceOn(f)),
      manual: track.manual.map((m) => m.frame),
      stops,
    },
  ];
}
