/** A box of whole pixels; `x1` and `y1` lie just outside. */
export interface PixelBox {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

/** The smallest box that holds all pixels with α over `above`, a half if not said; undefined when there are none. */
export function boundsOfMatte(alpha: Float32Array, width: number, height: number, above = 0.5): PixelBox | undefined {
  let [x0, y0, x1, y1] = [width, height, 0, 0];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (alpha[y * width + x]! <= above) continue;
      x0 = Math.min(x0, x);
      x1 = Math.max(x1, x + 1);
      y0 = Math.min(y0, y);
      y1 = y + 1;
    }
  return x1 <= x0 ? undefined : { x0, y0, x1, y1 };
}

/** A box grown on all sides by a share of its longer one, cut to the picture. */
export function grownBox({ x0, y0, x1, y1 }: PixelBox, share: number, width: number, height: number): PixelBox {
  const margin = Math.round(share * Math.max(x1 - x0, y1 - y0));
  return {
    x0: Math.max(x0 - margin, 0),
    y0: Math.max(y0 - margin, 0),
    x1: Math.min(x1 + margin, width),
    y1: Math.min(y1 + margin, height),
  };
}

/** A matte at another, usually smaller, width: the nearest sample of each pixel. */
export function resampledMatte(
  alpha: Float32Array,
  width: number,
  height: number,
  to: number,
): { alpha: Float32Array; width: number; height: number } {
  const tall = Math.round((to * height) / width);
  const out = new Float32Array(to * tall);
  for (let y = 0; y < tall; y++)
    for (let x = 0; x < to; x++) {
      const [sx, sy] = [Math.floor(((x + 0.5) * width) / to), Math.floor(((y + 0.5) * height) / tall)];
      out[y * to + x] = alpha[sy * width + sx]!;
    }
  return { alpha: out, width: to, height: tall };
}
