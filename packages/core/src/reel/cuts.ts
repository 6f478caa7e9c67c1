// Where one shot ends and the next begins, in footage that holds several. Frames that follow one another look alike; at
// a cut they suddenly do not, and stay so. The measure is a histogram of colours joined with the means of tiles, the
// usual pair (J. S. Boreczky, L. A. Rowe, Comparison of video shot boundary detection techniques, 1996); its threshold
// follows how much the picture moves on either side. Dissolves and wipes are no cuts and are not found.

/** Levels of light and of either colour difference in the histogram. */
const [LIGHT, COLOUR] = [8, 5];
/** Tiles over the picture, across and down. */
const [ACROSS, DOWN] = [8, 5];
/** Frames on either side that say how much the picture moves. */
const AROUND = 12;
/** What is new after a cut must still be so this many frames on: a flash, a bird before the lens are no cuts. */
const STAYS = 3;
/** Below this a change is not told. */
export const LEAST_CERTAINTY = 0.25;

/** What a frame looks like, in short: shares of colours, which add up to 1, and the mean colours of tiles, 0..1. */
export interface FrameLook {
  histogram: Float32Array;
  tiles: Float32Array;
}
/** The first frame of a new shot, counted in the frames that were given, and how sure that is: 0..1. */
export interface FoundCut {
  frame: number;
  certainty: number;
}

/** Adds a weight to the two nearest of some levels, so that a little grain does not tip a colour over. */
function spreadOver(value: number, levels: number): [low: number, share: number] {
  const at = Math.min(Math.max(value, 0), 1) * (levels - 1);
  const low = Math.min(Math.floor(at), levels - 2);
  return [low, at - low];
}

/** Of a small picture: bytes of full-range R, G, B in turn, row by row. 64 × 36 is enough. */
export function frameLook(rgb: Uint8Array, width: number, height: number): FrameLook {
  const n = width * height;
  if (rgb.length !== 3 * n) throw new RangeError(`rgb holds ${rgb.length} bytes, ${width} × ${height} has ${3 * n}`);
  const histogram = new Float32Array(LIGHT * COLOUR * COLOUR);
  const tiles = new Float32Array(3 * ACROSS * DOWN);
  const inTile = new Float32Array(ACROSS * DOWN);
  for (let i = 0; i < n; i++) {
    const [r, g, b] = [rgb[3 * i]! / 255, rgb[3 * i + 1]! / 255, rgb[3 * i + 2]! / 255];
    const y = 0.2126 * r + 0.7152 * g + 0.0722 * b; // luma, Rec. ITU-R BT.709-6, 3.2
    const [y0, yt] = spreadOver(y, LIGHT);
    // differences reach a half at the most; most pictures use the middle, so it is stretched twice
    const [u0, ut] = spreadOver(0.5 + (b - y), COLOUR);
    const [v0, vt] = spreadOver(0.5 + (r - y), COLOUR);
    for (let k = 0; k < 8; k++) {
      const [dy, du, dv] = [k & 1, (k >> 1) & 1, k >> 2];
      const weight = (dy ? yt : 1 - yt) * (du ? ut : 1 - ut) * (dv ? vt : 1 - vt);
      histogram[((y0 + dy) * COLOUR + u0 + du) * COLOUR + v0 + dv]! += weight / n;
    }
    const x = i % width;
    const tile = Math.floor((Math.floor(i / width) * DOWN) / height) * ACROSS + Math.floor((x * ACROSS) / width);
    tiles[3 * tile]! += r;
    tiles[3 * tile + 1]! += g;
    tiles[3 * tile + 2]! += b;
    inTile[tile]! += 1;
  }
  for (let t = 0; t < tiles.length; t++) tiles[t]! /= Math.max(inTile[Math.floor(t / 3)]!, 1);
  return { histogram, tiles };
}

/** How unlike two frames are: 0, the same, to 1. */
export function unlikeness(a: FrameLook, b: FrameLook): number {
  let [colours, places] = [0, 0];
  for (let i = 0; i < a.histogram.length; i++) colours += Math.abs(a.histogram[i]! - b.histogram[i]!);
  for (let i = 0; i < a.tiles.length; i++) places += Math.abs(a.tiles[i]! - b.tiles[i]!);
  return 0.5 * (colours / 2) + 0.5 * Math.min((3 * places) / a.tiles.length, 1);
}

/** The value that four in five do not pass. */
function usual(values: number[]): number {
  values.sort((a, b) => a - b);
  return values[Math.floor(0.8 * (values.length - 1))] ?? 0;
}

/** Cuts between frames that follow one another, in their order. */
export function findCuts(looks: readonly FrameLook[]): FoundCut[] {
  const steps = looks.map((look, i) => (i === 0 ? 0 : unlikeness(looks[i - 1]!, look)));
  const between = (a: number, b: number): number =>
    unlikeness(looks[Math.max(a, 0)]!, looks[Math.min(b, looks.length - 1)]!);
  const cuts: FoundCut[] = [];
  for (let t = 1; t < steps.length; t++) {
    const step = steps[t]!;
    const near = (by: number): number => steps[t + by] ?? 0;
    if (step < near(-1) || step <= near(1) || step < near(-2) || step < near(2)) continue;
    const around = [];
    for (let by = 1; by <= AROUND; by++)
      for (const at of [t - by, t + by]) if (at >= 1 && at < steps.length) around.push(steps[at]!);
    const moves = usual(around);
    const certainty = Math.min((step - 2.5 * moves - 0.04) / (0.6 * step + 0.02), 1);
    if (certainty < LEAST_CERTAINTY) continue;
    let stays = true;
    for (let by = 1; by <= STAYS; by++)
      stays &&= between(t - 1, t + by) >= step / 2 && between(t - 1 - by, t) >= step / 2;
    if (stays) cuts.push({ frame: t, certainty });
  }
  return cuts;
}
