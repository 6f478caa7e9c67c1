import { maskOf, PlaneTracker, pyramidOf, type Geometry } from '@mellow/core';

const [WIDTH, HEIGHT] = [480, 270];
const FRAMES = 12;
const corner = (x: number, y: number) => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 });

/** A smooth texture with something at every scale, moved along by (dx, dy). */
function surface(dx: number, dy: number): Float32Array {
  const luma = new Float32Array(WIDTH * HEIGHT);
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const [u, v] = [x - dx, y - dy];
      luma[y * WIDTH + x] = 0.5 + 0.2 * Math.sin(0.11 * u + 2 * Math.sin(0.07 * v)) * Math.cos(0.09 * v + 0.03 * u) + 0.1 * Math.sin(0.7 * u) * Math.sin(0.6 * v);
    }
  return luma;
}

/**
 * Tracks a moving texture for a few frames. A thread that has done so has its code compiled: the first frame of the first
 * real track takes a fraction of the time it would otherwise.
 */
export function warmUp(): void {
  const region: Geometry = { form: 'spline', points: [corner(90, 40), corner(390, 40), corner(390, 230), corner(90, 230)] };
  const tracker = new PlaneTracker(pyramidOf(surface(0, 0), WIDTH, HEIGHT), maskOf(region, WIDTH, HEIGHT), undefined, { move: true, turn: true, scale: true, shear: true, perspective: true });
  for (let k = 1; k <= FRAMES; k++) tracker.step(pyramidOf(surface(1.3 * k, 0.7 * k), WIDTH, HEIGHT));
}
