import { labFromLinear709, type Lab } from '../colour/lab.ts';
import { oklabFromLinear709, type Oklab } from '../colour/oklab.ts';
import type { RenderedFrame } from '../pipeline/renderFrame.ts';
import type { SourceFrame } from '../pipeline/sourceFrame.ts';

type Three = [number, number, number];
/** One pixel's code values (of the picture's own depth), linear light and Lab. */
export interface ProbedColour {
  codes: Three;
  linear: Three;
  lab: Lab;
}
export interface ProbedPixel {
  before: ProbedColour;
  after: ProbedColour | undefined;
  /** α of the sighting in hand. */
  alpha: number | undefined;
  oklab: Oklab;
}

interface ThreePlanes {
  r: ArrayLike<number>;
  g: ArrayLike<number>;
  b: ArrayLike<number>;
}
const at = ({ r, g, b }: ThreePlanes, i: number): Three => [r[i]!, g[i]!, b[i]!];
const colourOf = (codes: Three, light: Three): ProbedColour => ({
  codes,
  linear: light,
  lab: labFromLinear709(light),
});

/** What lies at a place (full-resolution pixels) of a frame, before and after; undefined outside the picture. */
export function probePixel(
  source: SourceFrame,
  rendered: RenderedFrame | undefined,
  index: number,
  x: number,
  y: number,
): ProbedPixel | undefined {
  const { width, height } = source.codes;
  const [px, py] = [Math.floor(x * source.scale), Math.floor(y * source.scale)];
  if (px < 0 || py < 0 || px >= width || py >= height) return undefined;
  const i = py * width + px;
  const light = at(source.lightAt(Uint32Array.of(i)), 0);
  return {
    before: colourOf(at(source.codes, i), light),
    after: rendered && colourOf(at(rendered.codes, i), at(rendered.lightAt(Uint32Array.of(i)), 0)),
    alpha: rendered && index >= 0 ? rendered.mattes[index]![i]! : undefined,
    oklab: oklabFromLinear709(light),
  };
}
