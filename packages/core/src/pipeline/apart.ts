// Recolours of a frame that have nothing to do with one another: each is computed as if it were alone, with no regard
// to what lies between them.
import { gatheredLight, type LinearPlanes } from '../colour/planes.ts';
import { sharedBox, type PixelBox } from '../matte/bounds.ts';
import type { CodePicture } from './picture.ts';
import { looksFurther, reachOf, selectedBox } from './region.ts';
import type { RecolouredFrame } from './renderFrame.ts';
import type { SightingRender } from './sightingRender.ts';
import type { SourceFrame } from './sourceFrame.ts';

const CHANNELS = ['r', 'g', 'b'] as const;

/** Sightings that are computed together. */
export interface Group {
  /** Which of the frame's, ascending. */
  members: readonly number[];
  /** Where they look and work. No box of another group meets these. */
  boxes: readonly PixelBox[];
}

/**
 * The sightings of a frame in groups that are apart; one that selects nothing is in none. Undefined where there is only
 * one, and where none looks further than a pixel's neighbours: nothing is spared then.
 */
export function groupsOf(
  source: SourceFrame,
  sightings: readonly SightingRender[],
  mattes: readonly Float32Array[],
): Group[] | undefined {
  if (source.isBalanced || sightings.length < 2 || !sightings.some(looksFurther)) return undefined;
  const { width, height } = source.codes;
  const groupOf = (members: readonly number[]): Group[] => {
    const reach = Math.max(...members.map((k) => reachOf(sightings[k]!, source.scale)));
    const box = selectedBox(
      members.map((k) => mattes[k]!),
      width,
      height,
      reach,
    );
    return box ? [{ members, boxes: [box] }] : [];
  };
  const groups = sightings.flatMap((_, k) => groupOf([k]));
  for (let met = firstMeeting(groups); met; met = firstMeeting(groups)) {
    const [a, b] = met;
    const members = [...groups[a]!.members, ...groups[b]!.members].sort((p, q) => p - q);
    groups.splice(b, 1);
    groups.splice(a, 1, ...groupOf(members));
  }
  // what only looks at each pixel and its neighbours has its own way, however far apart it lies
  const isPlain = ({ members }: Group) => !members.some((k) => looksFurther(sightings[k]!));
  const plain = groups.filter(isPlain);
  const together: Group[] =
    plain.length === 0
      ? []
      : [
          {
            members: plain.flatMap((g) => g.members).sort((p, q) => p - q),
            boxes: plain.flatMap((g) => g.boxes),
          },
        ];
  const all = [...together, ...groups.filter((g) => !isPlain(g))];
  return all.length > 1 ? all : undefined;
}
/** The first two groups that meet. */
function firstMeeting(groups: readonly Group[]): [number, number] | undefined {
  for (let a = 0; a < groups.length; a++)
    for (let b = a + 1; b < groups.length; b++)
      if (sharedBox(groups[a]!.boxes[0]!, groups[b]!.boxes[0]!)) return [a, b];
  return undefined;
}

/** A group of a frame and what was found of it alone. */
export interface Apart {
  group: Group;
  recoloured: RecolouredFrame;
}
/** What was found of groups, as of the frame that has them all. */
export function joinedFrame(source: SourceFrame, mattes: Float32Array[], parts: readonly Apart[]): RecolouredFrame {
  const ofEach = <T>(of: (part: RecolouredFrame) => readonly (T | undefined)[]) => {
    const out = mattes.map((): T | undefined => undefined);
    for (const { group, recoloured } of parts) for (const [n, k] of group.members.entries()) out[k] = of(recoloured)[n];
    return out;
  };
  let linear: LinearPlanes | undefined;
  return {
    mattes,
    get spills() {
      return ofEach((part) => part.spills);
    },
    get sheens() {
      return ofEach((part) => part.sheens);
    },
    lightAt: (pixels) => (linear ? gatheredLight(linear, pixels) : lightOf(source, parts, pixels)),
    get linear() {
      if (linear) return linear;
      const { r, g, b } = source.linear();
      linear = { r: r.slice(), g: g.slice(), b: b.slice() };
      const { width } = source.codes;
      for (const { group, recoloured } of parts)
        for (const box of group.boxes) for (const c of CHANNELS) copyBox(linear[c], recoloured.linear[c], width, box);
      return linear;
    },
    get touched() {
      const all = parts.map(({ recoloured }) => recoloured.touched);
      const out = new Uint32Array(all.reduce((n, { length }) => n + length, 0));
      all.reduce((at, touched) => (out.set(touched, at), at + touched.length), 0);
      return out.sort();
    },
  };
}

/** Light of single pixels: from the group in whose boxes they lie. */
function lightOf(source: SourceFrame, parts: readonly Apart[], pixels: Uint32Array): LinearPlanes {
  const { width } = source.codes;
  const light = source.lightAt(pixels);
  for (const { group, recoloured } of parts) {
    const among = new Uint32Array(pixels.length);
    let n = 0;
    for (let k = 0; k < pixels.length; k++) if (isIn(group.boxes, pixels[k]!, width)) among[n++] = k;
    const places = among.subarray(0, n);
    const own = recoloured.lightAt(places.map((k) => pixels[k]!));
    for (const c of CHANNELS) for (let m = 0; m < n; m++) light[c][places[m]!] = own[c][m]!;
  }
  return light;
}
function isIn(boxes: readonly PixelBox[], pixel: number, width: number): boolean {
  const x = pixel % width;
  const y = (pixel - x) / width;
  for (const box of boxes) if (x >= box.x0 && x < box.x1 && y >= box.y0 && y < box.y1) return true;
  return false;
}

/** Codes of groups, each of the whole frame, in one picture: the first one's, which is written to. */
export function joinedCodes(parts: readonly { group: Group; codes: CodePicture }[]): CodePicture {
  const { codes: out } = parts[0]!;
  for (const { group, codes } of parts.slice(1))
    for (const box of group.boxes) for (const c of CHANNELS) copyBox(out[c], codes[c], out.width, box);
  return out;
}
/** Copies what lies in a box from a plane to another of its size. */
function copyBox<P extends Uint8Array | Uint16Array | Float32Array>(
  to: P,
  from: P,
  width: number,
  box: PixelBox,
): void {
  for (let row = box.y0 * width; row < box.y1 * width; row += width)
    to.set(from.subarray(row + box.x0, row + box.x1), row + box.x0);
}
