import { expect, it } from 'vitest';
import { lightText } from './lightText.ts';

it.each([
  [undefined, 'light not taken'],
  [{ warmerMired: 7.9, lighterStops: -0.04 }, 'same light'],
  [{ warmerMired: 7.9, lighterStops: -0.62 }, '0.6 stops darker'],
  [{ warmerMired: -8, lighterStops: 0.04 }, 'cooler'],
  [{ warmerMired: 30, lighterStops: 0.05 }, 'warmer, 0.1 stops lighter'],
])('of a light against the reference shot’s is said what differs: %o', (light, text) => {
  expect(lightText(light)).toBe(text);
});
