import { expect, it } from 'vitest';
import type { CodePicture } from '@mellow/core';
import { SharedPictures } from './sharedPictures.ts';

const picture = (plane: CodePicture['r']): CodePicture => ({ width: 2, height: 1, r: plane, g: plane, b: plane });

it.each([Uint8Array.of(3, 250), Uint16Array.of(3, 65000), Float32Array.of(-0.5, 70000)])(
  'a picture lies in one memory for all who met, whatever its codes are: %o',
  async (plane) => {
    const [a, b, c] = [new SharedPictures(), new SharedPictures(), new SharedPictures()];
    const channels = [new MessageChannel(), new MessageChannel()];
    for (const [k, other] of [b, c].entries()) {
      a.meet(channels[k]!.port1);
      other.meet(channels[k]!.port2);
    }
    const heard = [b, c].map(
      (each) => new Promise<[string, CodePicture]>((resolve) => each.listen((...told) => resolve(told))),
    );
    const shared = a.share('/frame/1', picture(plane));
    expect(shared).toEqual(picture(plane));
    const told = await Promise.all(heard);
    expect(told.map(([url]) => url)).toEqual(['/frame/1', '/frame/1']);
    shared.g[1] = 1;
    expect(told.map(([, { r, g }]) => [r[1], g[1]])).toEqual([
      [plane[1], 1],
      [plane[1], 1],
    ]);
    // what was given is not written to
    expect(plane[1]).not.toBe(1);
    for (const { port1 } of channels) port1.close();
  },
);
it('a picture of one who met nobody stays its own', () => {
  const own = picture(Uint8Array.of(1, 2));
  expect(new SharedPictures().share('/frame/1', own)).toBe(own);
});
