import { expect, it, vi } from 'vitest';
import type { Animated } from '@mellow/contract';
import { keyframingOf } from './keyframingOf.ts';
import { summed } from '../stages/isolate/summed.ts';

const window = { key: { hue: { lo: 10, hi: 40 } } };
const names = ['key.hue.lo', 'key.hue.hi'];
const toggled = (animated: Animated | undefined) => {
  const save = vi.fn<(label: string, animated: Animated) => void>();
  keyframingOf(window, animated, 5, 'linear', save).toggle(names, 'the hue window');
  expect(save).toHaveBeenCalledOnce();
  return save.mock.calls[0]!;
};
const key = (frame: number, value: number) => ({ frame, value, ease: 'linear' as const });

it('sets the keyframes of several numbers as one step', () => {
  expect(toggled(undefined)).toEqual([
    'Set a keyframe of the hue window',
    { 'key.hue.lo': [key(5, 10)], 'key.hue.hi': [key(5, 40)] },
  ]);
});
it('gives one to those that lack it, and leaves those that have one as they are', () => {
  expect(toggled({ 'key.hue.lo': [key(5, 7)] })[1]).toEqual({ 'key.hue.lo': [key(5, 7)], 'key.hue.hi': [key(5, 40)] });
});
it('takes all away where all have one, and other frames’ stay', () => {
  expect(toggled({ 'key.hue.lo': [key(2, 3), key(5, 10)], 'key.hue.hi': [key(5, 40)] })).toEqual([
    'Take away a keyframe of the hue window',
    { 'key.hue.lo': [key(2, 3)] },
  ]);
});

it('sums a figure over the frames that have it', () => {
  const frames = [
    { chatter: undefined, slipPx: 0 },
    { chatter: 0.1, slipPx: 1 },
    { chatter: 0.3, slipPx: undefined },
  ];
  expect(summed(frames, (h) => h.chatter)).toEqual({ mean: 0.2, worst: 0.3, frame: 2 });
  expect(summed(frames, (h) => h.slipPx)).toEqual({ mean: 0.5, worst: 1, frame: 1 });
  expect(summed(frames.slice(0, 1), (h) => h.chatter)).toBeUndefined();
});

it('tells where a number has a keyframe: here, on other frames, nowhere', () => {
  const { stateOf } = keyframingOf(window, { a: [key(5, 1)], b: [key(4, 1)] }, 5, 'linear', () => undefined);
  expect(['a', 'b', 'c'].map(stateOf)).toEqual(['here', 'between', 'none']);
  expect(keyframingOf(window, undefined, 5, 'linear', () => undefined).stateOf('a')).toBe('none');
});
it('takes a number’s last keyframe away whole, and passes over a number that the object has not', () => {
  expect(toggled({ 'key.hue.lo': [key(5, 10)], 'key.hue.hi': [key(5, 40)] })[1]).toEqual({});
  const save = vi.fn<(label: string, animated: Animated) => void>();
  keyframingOf(window, undefined, 5, 'linear', save).toggle(['key.hue.lo', 'spill.amount'], 'both');
  expect(save.mock.calls).toEqual([['Set a keyframe of both', { 'key.hue.lo': [key(5, 10)] }]]);
});
