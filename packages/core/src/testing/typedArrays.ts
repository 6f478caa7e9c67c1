// Set-up of all tests: `toEqual` of typed arrays, number by number as ever, but many times as quick.
import { expect } from 'vitest';

const isTyped = (value: unknown): value is Float64Array => ArrayBuffer.isView(value) && !(value instanceof DataView);

/** 0 and -0 differ and NaN is NaN, as in all of `toEqual`; undefined where that is to compare, and to tell, itself. */
function areSame(a: unknown, b: unknown): true | undefined {
  if (!isTyped(a) || !isTyped(b) || a.constructor !== b.constructor || a.length !== b.length) return undefined;
  for (let i = 0; i < a.length; i++) if (!Object.is(a[i], b[i])) return undefined;
  return true;
}

// files that share a process share what was added to it
const process = globalThis as { comparesTypedArrays?: true };
if (!process.comparesTypedArrays) expect.addEqualityTesters([areSame]);
process.comparesTypedArrays = true;
