import { expect, it } from 'vitest';
import { hasAlpha, proxySize, sharesChroma } from './media.ts';

it('tells pixel formats that carry alpha', () => {
  const withAlpha = ['yuva444p12le', 'gbrap16le', 'rgba64le', 'bgra', 'argb', 'abgr', 'ya8', 'ya16be', 'pal8'];
  const without = ['yuv420p', 'gbrp10le', 'rgb24', 'bgr24', 'gray16le', 'yuvj420p', 'xyzrgba'];
  expect(withAlpha.filter((f) => !hasAlpha(f))).toEqual([]);
  expect(without.filter(hasAlpha)).toEqual([]);
});

it('makes proxies no wider than 960 pixels nor than the picture, in its shape', () => {
  expect(proxySize(1920, 1080)).toEqual({ width: 960, height: 540, scale: 0.5 });
  expect(proxySize(640, 481)).toEqual({ width: 640, height: 481, scale: 1 });
  expect(proxySize(1280, 720, 240)).toEqual({ width: 240, height: 135, scale: 0.1875 });
  expect(proxySize(9600, 3).height).toBe(1);
});
it('footage of fewer samples of chroma than of luma is told by its pixel format', () => {
  const fewer = ['yuv420p', 'yuvj422p', 'yuva420p10le', 'yuv440p', 'yuv411p', 'nv12', 'nv16', 'p010le', 'p210le'];
  const asMany = ['yuv444p10le', 'yuva444p', 'nv24', 'p416le', 'gbrp16le', 'rgb24', 'gray', 'gbrpf32le'];
  const shares = (pixelFormat: string) => sharesChroma({ pixelFormat });
  expect(fewer.filter((f) => !shares(f))).toEqual([]);
  expect(asMany.filter(shares)).toEqual([]);
});
