import type { ReactNode } from 'react';
import type { Animated, Layer } from '@mellow/contract';
import { Keyframing } from '../../keyframing/Keyframing.ts';
import { keyframingOf } from '../../keyframing/keyframingOf.ts';
import type { Stack } from './useStack.ts';

/** Gives the numbers of a layer their keyframe buttons. */
export function LayerKeyframing({ layer, stack, children }: { layer: Layer; stack: Stack; children: ReactNode }) {
  const stored = stack.storedLayer(layer.id) ?? layer;
  const save = (label: string, animated: Animated) =>
    stack.putLayer(label, { ...stored, animated: Object.keys(animated).length > 0 ? animated : undefined });
  const { frame, keyframing } = stack;
  return <Keyframing value={keyframingOf(layer, stored.animated, frame, keyframing.ease, save)}>{children}</Keyframing>;
}
