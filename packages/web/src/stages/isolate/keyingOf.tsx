import type { ReactNode } from 'react';
import type { Animated, Layer } from '@mellow/contract';
import { keyToggled, numberOf, type Ease } from '@mellow/core';
import { Keying, type KeyingOf } from '../../ui/Keying.ts';
import type { Stack } from './useStack.ts';

/** Key buttons of an animated object: `now` is the object on the frame in hand. */
export function keyingOf(now: unknown, animated: Animated | undefined, frame: number, ease: Ease, save: (label: string, animated: Animated) => void): KeyingOf {
  return {
    stateOf: (name) => {
      const keys = animated?.[name];
      return !keys ? 'none' : keys.some((k) => k.frame === frame) ? 'here' : 'between';
    },
    toggle: (name, label) => {
      const value = numberOf(now, name);
      if (value === undefined) return;
      const { [name]: keys, ...others } = animated ?? {};
      const next = keyToggled(keys, frame, value, ease);
      save(`${keys?.some((k) => k.frame === frame) ? 'Take away' : 'Set'} a keyframe of ${label}`, (next ? { ...others, [name]: next } : others) as Animated);
    },
  };
}
export function LayerKeying({ layer, stack, children }: { layer: Layer; stack: Stack; children: ReactNode }) {
  const stored = stack.storedLayer(layer.id) ?? layer;
  const save = (label: string, animated: Animated) => stack.putLayer(label, { ...stored, animated: Object.keys(animated).length > 0 ? animated : undefined } as Layer);
  return <Keying value={keyingOf(layer, stored.animated, stack.frame, stack.keying.ease, save)}>{children}</Keying>;
}
