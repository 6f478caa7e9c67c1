import type { ReactNode } from 'react';
import type { Animated, Layer } from '@mellow/contract';
import { keyToggled, numberOf, type Ease, type NumberKey } from '@mellow/core';
import { Keying, type KeyingOf } from '../../ui/Keying.ts';
import type { Stack } from './useStack.ts';

/** Key buttons of an animated object: `now` is the object on the frame in hand. */
export function keyingOf(
  now: unknown,
  animated: Animated | undefined,
  frame: number,
  ease: Ease,
  save: (label: string, animated: Animated) => void,
): KeyingOf {
  return {
    stateOf: (name) => {
      const keys = animated?.[name];
      return !keys ? 'none' : keys.some((k) => k.frame === frame) ? 'here' : 'between';
    },
    toggle: (names, label) => {
      const isHere = (name: string) => animated?.[name]?.some((k) => k.frame === frame) ?? false;
      // together they end up alike: where some have a keyframe here and some do not, those that lack one get it
      const away = names.every(isHere);
      const next: Record<string, NumberKey[]> = { ...animated };
      for (const name of names) {
        const value = numberOf(now, name);
        if (value === undefined || (!away && isHere(name))) continue;
        const keys = keyToggled(next[name], frame, value, ease);
        if (keys) next[name] = keys;
        else delete next[name];
      }
      save(`${away ? 'Take away' : 'Set'} a keyframe of ${label}`, next);
    },
  };
}
export function LayerKeying({ layer, stack, children }: { layer: Layer; stack: Stack; children: ReactNode }) {
  const stored = stack.storedLayer(layer.id) ?? layer;
  const save = (label: string, animated: Animated) =>
    stack.putLayer(label, { ...stored, animated: Object.keys(animated).length > 0 ? animated : undefined } as Layer);
  return <Keying value={keyingOf(layer, stored.animated, stack.frame, stack.keying.ease, save)}>{children}</Keying>;
}
