import { expect, it } from 'vitest';
import { bytesText } from './bytesText.ts';

it.each([
  [0, '0 bytes'],
  [999, '999 bytes'],
  [1000, '1 kB'],
  [12_345, '12.3 kB'],
  [999_499, '999 kB'],
  [999_600, '1 MB'],
  [1e9, '1 GB'],
  [77_240_000_000, '77.2 GB'],
  [2.5e12, '2.5 TB'],
  [1.5e15, '1500 TB'],
])('%d is said as %s', (bytes, said) => expect(bytesText(bytes)).toBe(said));
