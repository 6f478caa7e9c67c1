// Recolours computed on a part of a frame, put back into the whole.
import { gatheredLight, type LinearPlanes } from '../colour/planes.ts';
import { putBack, type PixelBox } from '../matte/bounds.ts';
import type { SpillMap } from '../matte/spill.ts';
import type { CodePicture } from './picture.ts';
import type { Region } from './region.ts';
import type { RecolouredFrame } from './renderFrame.ts';
import type { SourceFrame } from './sourceFrame.ts';

/** What was found on a part of a frame, as of the whole; whole planes are made when they are first asked for. */
export function placedFrame(
  source: SourceFrame,
  { box }: Region,
  mattes: Float32Array[],
  part: RecolouredFrame,
): RecolouredFrame {
  const { width, height } = source.codes;
  let linear: LinearPlanes | undefined;
  let spills: (SpillMap | undefined)[] | undefined;
  return {
    mattes,
    get sheens() {
      return part.sheens;
    },
    get spills() {
      return (spills ??= part.spills.map((map) => map && placedMap(map, box, width, height)));
    },
    get linear() {
      if (linear) return linear;
      const from = source.linear();
      linear = { r: from.r.slice(), g: from.g.slice(), b: from.b.slice() };
      for (const c of CHANNELS) putBack(linear[c], width, part.linear[c], box);
      return linear;
    },
    lightAt: (pixels) => lightOf(source, box, part, pixels),
    get touched() {
      const w = box.x1 - box.x0;
      return part.touched.map((i) => (box.y0 + Math.floor(i / w)) * width + box.x0 + (i % w));
    },
  };
}
const CHANNELS = ['r', 'g', 'b'] as const;

function placedMap(map: SpillMap, box: PixelBox, width: number, height: number): SpillMap {
  const whole = (plane: Float32Array) => {
    const out = new Float32Array(width * height);
    putBack(out, width, plane, box);
    return out;
  };
  return {
    share: whole(map.share),
    pieceA: whole(map.pieceA),
    pieceB: whole(map.pieceB),
    surroundA: whole(map.surroundA),
    surroundB: whole(map.surroundB),
  };
}

/** Light of single pixels: from the part where they lie in it. */
function lightOf(source: SourceFrame, box: PixelBox, part: RecolouredFrame, pixels: Uint32Array): LinearPlanes {
  const { width } = source.codes;
  const w = box.x1 - box.x0;
  const inPart = new Uint32Array(pixels.length);
  const among: number[] = [];
  let n = 0;
  for (let k = 0; k < pixels.length; k++) {
    const x = pixels[k]! % width;
    const y = (pixels[k]! - x) / width;
    if (x >= box.x0 && x < box.x1 && y >= box.y0 && y < box.y1) inPart[n++] = (y - box.y0) * w + x - box.x0;
    else among.push(k);
  }
  const own = gatheredLight(part.linear, inPart.subarray(0, n));
  if (among.length === 0) return own;
  const light = source.lightAt(pixels);
  let next = 0;
  for (let k = 0, m = 0; k < pixels.length; k++) {
    if (among[next] === k) next++;
    else {
      for (const c of CHANNELS) light[c][k] = own[c][m]!;
      m++;
    }
  }
  return light;
}

/** Codes of a part put into those of the whole, which are left as they are. */
export function placedCodes(whole: CodePicture, part: CodePicture, box: PixelBox): CodePicture {
  const { width, height } = whole;
  const out = { width, height, r: whole.r.slice(), g: whole.g.slice(), b: whole.b.slice() };
  for (const c of CHANNELS) putBack(out[c], width, part[c], box);
  return out;
}
