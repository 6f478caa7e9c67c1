import { expect, it } from 'vitest';
import { codesUrl, frameUrl, isOfHalves } from './frameUrl.ts';

const id = '00000000-0000-4000-8000-000000000001' as never;

it('codes of integers are the proxy, floats the picture of their bytes', () => {
  expect(codesUrl({ id, pixelFormat: 'yuv420p' }, 7)).toBe(frameUrl(id, 7));
  expect(codesUrl({ id, pixelFormat: 'gbrpf32le' }, 7)).toBe(`/api/media/${id as string}/frames/half/7.png`);
});
it('only the latter are read as halves', () => {
  for (const format of ['gbrpf32le', 'gbrapf32le', 'grayf32le', 'rgbf16le'])
    expect(isOfHalves(codesUrl({ id, pixelFormat: format }, 0))).toBe(true);
  expect(isOfHalves(codesUrl({ id, pixelFormat: 'gbrp16le' }, 0))).toBe(false);
  expect(isOfHalves(frameUrl(id, 0, 'alpha'))).toBe(false);
});
