import type { Animated } from '@mellow/contract';
import { keyframeToggled, numberOf, type Ease, type NumberKeyframe } from '@mellow/core';
import type { KeyframingOf } from './Keyframing.ts';

/** The keyframe buttons of an animated object: `now` is the object on the frame in hand. */
export function keyframingOf(
  now: unknown,
  animated: Animated | undefined,
  frame: number,
  ease: Ease,
  save: (label: string, animated: Animated) => void,
): KeyframingOf {
  const isHere = (name: string) => animated?.[name]?.some((k) => k.frame === frame) ?? false;
  return {
    stateOf(name) {
      if (isHere(name)) return 'here';
      return animated?.[name] ? 'between' : 'none';
    },
    toggle(names, label) {
      // together they end up alike: where some have a keyframe here and some do not, those that lack one get it
      const away = names.every(isHere);
      const next: Record<string, NumberKeyframe[]> = { ...animated };
      for (const name of names) {
        const value = numberOf(now, name);
        if (value === undefined || (!away && isHere(name))) continue;
        const keyframes = keyframeToggled(next[name], frame, value, ease);
        if (keyframes) next[name] = keyframes;
        else delete next[name];
      }
      save(`${away ? 'Take away' : 'Set'} a keyframe of ${label}`, next);
    },
  };
}
