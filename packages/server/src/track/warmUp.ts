import type { Geometry } from '@mellow/core';
import type { SetUp, Step } from './trackProtocol.ts';

const [WIDTH, HEIGHT] = [640, 360];
const FRAMES = 14;
const corner = (x: number, y: number) => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 });

/** A smooth texture with something at every scale, moved along by (dx, dy), as 16-bit codes. */
function surface(dx: number, dy: number): Uint16Array {
  const luma = new Uint16Array(WIDTH * HEIGHT);
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const [u, v] = [x - dx, y - dy];
      luma[y * WIDTH + x] =
        65535 *
        (0.5 +
          0.2 * Math.sin(0.11 * u + 2 * Math.sin(0.07 * v)) * Math.cos(0.09 * v + 0.03 * u) +
          0.1 * Math.sin(0.7 * u) * Math.sin(0.6 * v));
    }
  return luma;
}

/**
 * What a tracking thread is asked before anybody needs it: to follow a moving texture for a few frames. A thread that
 * has done so has its code compiled: the first frame of the first real track takes a fraction of the time it would
 * otherwise.
 */
export function* warmUpRequests(): Generator<SetUp | Step> {
  const region: Geometry = {
    form: 'spline',
    points: [corner(120, 60), corner(500, 60), corner(500, 300), corner(120, 300)],
  };
  yield {
    kind: 'set up',
    luma: surface(0, 0),
    width: WIDTH,
    height: HEIGHT,
    region,
    holdOuts: [],
    freedom: { move: true, turn: true, scale: true, shear: true, perspective: true },
  };
  for (let k = 1; k <= FRAMES; k++) yield { kind: 'step', luma: surface(1.3 * k, 0.7 * k), holdOuts: [] };
}
