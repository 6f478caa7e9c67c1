// What the set-up adds to `toEqual` tells arrays apart as it always does.
import { expect, it } from 'vitest';

it.each<[string, unknown, unknown]>([
  ['a number', Float32Array.of(1, 2), Float32Array.of(1, 3)],
  ['the sign of 0', Float32Array.of(0), Float32Array.of(-0)],
  ['NaN', Float64Array.of(NaN), Float64Array.of(0)],
  ['the length', Uint8Array.of(1), Uint8Array.of(1, 0)],
  ['the kind', Uint8Array.of(1), Uint16Array.of(1)],
  ['a number within', { planes: [Uint8Array.of(1)] }, { planes: [Uint8Array.of(2)] }],
])('%s', (_what, a, b) => {
  expect(a).not.toEqual(b);
  expect(a).toEqual(structuredClone(a));
});
