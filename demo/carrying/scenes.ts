// Scenes with exact mattes: things cut out of photographs pass over other photographs, behind posts and wires.
// `tuned` says which of them the carrying of selections was tuned on; the others only judge it.
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import type { CodePicture } from '../../packages/core/src/index.ts';
import { words } from '../../packages/server/src/media/words.ts';

interface Photograph {
  width: number;
  height: number;
  /** R, G, B of each pixel in turn, 0..255. */
  rgb: Uint8Array;
}
const read = new Map<string, Photograph>();
function photograph(name: string): Photograph {
  const known = read.get(name);
  if (known) return known;
  const file = join(import.meta.dirname, '../photographs', `${name}.png`);
  const size = execFileSync('ffprobe', [...words('-v error -show_entries stream=width,height -of csv=p=0'), file]);
  const [width, height] = size.toString().trim().split(',').map(Number) as [number, number];
  const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', file, ...words('-f rawvideo -pix_fmt rgb24 -')], {
    maxBuffer: 1e7,
  });
  const photo = { width, height, rgb: new Uint8Array(raw) };
  read.set(name, photo);
  return photo;
}

type Ellipse = readonly [cx: number, cy: number, rx: number, ry: number];
/** What is cut out: the ellipses of a photograph together. */
interface Thing {
  photo: string;
  ellipses: readonly Ellipse[];
}
const CUP: Thing = {
  photo: 'coffee',
  ellipses: [
    [288, 235, 200, 156],
    [301, 114, 122, 98],
  ],
};
const HEAD: Thing = { photo: 'astronaut', ellipses: [[228, 108, 76, 92]] };
const BIRD: Thing = { photo: 'parrot', ellipses: [[238, 265, 112, 190]] };

/** A part of a photograph that stands before the thing, still on the ground: `x` on the ground, `width` across. */
interface Post {
  photo: string;
  at: readonly [x: number, y: number];
  x: number;
  width: number;
}
export interface SceneSpec {
  name: string;
  tuned: boolean;
  thing: Thing;
  ground: string;
  size: number;
  /** Where its middle is on the first frame and how far it goes by frame, pixels. */
  start: readonly [x: number, y: number];
  speed: readonly [x: number, y: number];
  turnDeg?: number;
  zoom?: number;
  wavePx?: number;
  camera?: readonly [x: number, y: number];
  posts?: readonly Post[];
  blurPx?: number;
  /** Light goes up and down by so much. */
  gain?: number;
  frames?: number;
}
const [WIDTH, HEIGHT] = [640, 360];
const FRAMES = 41;

export const SCENES: readonly SceneSpec[] = [
  {
    name: 'cup over a portrait',
    tuned: true,
    thing: CUP,
    ground: 'astronaut',
    size: 0.5,
    start: [180, 180],
    speed: [6, 1],
    zoom: 1.25,
    turnDeg: 12,
    wavePx: 6,
  },
  {
    name: 'cup over its own photograph',
    tuned: true,
    thing: CUP,
    ground: 'coffee',
    size: 0.45,
    start: [420, 200],
    speed: [-5, -1],
    camera: [1.5, 0.5],
    wavePx: 6,
  },
  {
    name: 'cup behind wooden posts',
    tuned: true,
    thing: CUP,
    ground: 'coffee',
    size: 0.5,
    start: [120, 190],
    speed: [9, 0],
    camera: [1, 0],
    posts: [
      { photo: 'coffee', at: [10, 60], x: 260, width: 44 },
      { photo: 'coffee', at: [70, 40], x: 470, width: 30 },
    ],
    gain: 0.12,
  },
  {
    name: 'head over wood',
    tuned: false,
    thing: HEAD,
    ground: 'coffee',
    size: 1.1,
    start: [420, 170],
    speed: [-6, 1],
    zoom: 0.8,
    turnDeg: -15,
    wavePx: 6,
    camera: [-1, 0],
  },
  {
    name: 'bird over its own photograph',
    tuned: false,
    thing: BIRD,
    ground: 'parrot',
    size: 0.7,
    start: [200, 180],
    speed: [6, 0.5],
    wavePx: 6,
  },
  {
    name: 'head behind posts of its own colours, moving camera',
    tuned: false,
    thing: HEAD,
    ground: 'brick',
    size: 1.1,
    start: [110, 180],
    speed: [10, 0.5],
    camera: [2, 0.5],
    posts: [
      { photo: 'astronaut', at: [200, 30], x: 300, width: 38 },
      { photo: 'astronaut', at: [180, 300], x: 520, width: 50 },
    ],
    blurPx: 6,
  },
  {
    name: 'bird behind wires, changing light',
    tuned: true,
    thing: BIRD,
    ground: 'grass',
    size: 0.75,
    start: [200, 190],
    speed: [5, -0.5],
    posts: [140, 200, 265, 330, 400, 470, 540].map((x) => ({
      photo: 'brick',
      at: [x / 2, 20] as const,
      x,
      width: 4,
    })),
    gain: 0.15,
    turnDeg: 10,
  },
  {
    name: 'cup, quick and blurred, past a portrait’s post',
    tuned: false,
    thing: CUP,
    ground: 'grass',
    size: 0.4,
    start: [560, 190],
    speed: [-13, 0],
    camera: [-2, 0],
    posts: [{ photo: 'astronaut', at: [70, 300], x: 330, width: 46 }],
    blurPx: 9,
    gain: 0.1,
  },
];

/** A place mirrored back into 0..n−1: what lies beyond a photograph's rim. */
function folded(v: number, n: number): number {
  const m = Math.abs(v) % (2 * n - 2);
  return m < n - 1 ? m : 2 * n - 2 - m;
}
function sample(out: Float64Array, { width, height, rgb }: Photograph, x: number, y: number): void {
  const u = folded(x, width);
  const v = folded(y, height);
  const ix = Math.min(u | 0, width - 2);
  const iy = Math.min(v | 0, height - 2);
  const fx = u - ix;
  const fy = v - iy;
  for (let c = 0; c < 3; c++) {
    const i = 3 * (iy * width + ix) + c;
    const top = (1 - fx) * rgb[i]! + fx * rgb[i + 3]!;
    const low = (1 - fx) * rgb[i + 3 * width]! + fx * rgb[i + 3 * width + 3]!;
    out[c] = (1 - fy) * top + fy * low;
  }
}
/** Soft over a pixel of the picture: 1 well inside an ellipse, 0 outside. */
function cover(ellipses: readonly Ellipse[], x: number, y: number, pixel: number): number {
  let most = 0;
  for (const [cx, cy, rx, ry] of ellipses) {
    const r = Math.hypot((x - cx) / rx, (y - cy) / ry);
    const slope = Math.hypot((x - cx) / (rx * rx), (y - cy) / (ry * ry)) / Math.max(r, 1e-6);
    most = Math.max(most, Math.min(Math.max((1 - r) / Math.max(slope * pixel, 1e-9) + 0.5, 0), 1));
  }
  return most;
}

/** One frame of a scene: 8-bit codes as BT.709, with noise, and the thing's α as it is seen. */
export function sceneFrame(spec: SceneSpec, t: number): { codes: CodePicture; alpha: Float32Array } {
  const { thing, size, zoom = 1, turnDeg = 0, wavePx = 0, camera = [0, 0], blurPx = 0, gain = 0 } = spec;
  const frames = spec.frames ?? FRAMES;
  const [ground, photo] = [photograph(spec.ground), photograph(thing.photo)];
  const posts = (spec.posts ?? []).map((post) => ({ ...post, from: photograph(post.photo) }));
  const n = WIDTH * HEIGHT;
  const sum = new Float64Array(3 * n);
  const alpha = new Float32Array(n);
  const taps = blurPx > 0 ? 5 : 1;
  const pace = Math.max(Math.hypot(...spec.speed), 1e-6);
  const [cx, cy] = [thing.ellipses[0]![0], thing.ellipses[0]![1]];
  const colour = new Float64Array(3);
  for (let k = 0; k < taps; k++) {
    const at = t + ((k + 0.5) / taps - 0.5) * Math.min(blurPx / pace, 0.9);
    const share = at / (frames - 1);
    const scale = size * Math.exp(Math.log(zoom) * share);
    const angle = (turnDeg * share * Math.PI) / 180;
    const [cos, sin] = [Math.cos(angle) / scale, Math.sin(angle) / scale];
    const [mx, my] = [spec.start[0] + spec.speed[0] * at, spec.start[1] + spec.speed[1] * at];
    const [gx, gy] = [camera[0] * at, camera[1] * at];
    for (let y = 0, i = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++, i++) {
        const wave = wavePx * Math.min(at / 12, 1);
        const dx = x - mx + wave * Math.sin(y / 23 + 0.15 * at);
        const dy = y - my + wave * 0.5 * Math.sin(x / 29 + 0.11 * at);
        const [u, v] = [cx + cos * dx + sin * dy, cy - sin * dx + cos * dy];
        let a = cover(thing.ellipses, u, v, 1 / scale);
        if (a < 1) sample(colour, ground, (x - gx) * 0.8, (y - gy) * 0.8 + 40);
        const behind = [colour[0]!, colour[1]!, colour[2]!];
        if (a > 0) sample(colour, photo, u, v);
        for (let c = 0; c < 3; c++) colour[c] = a * colour[c]! + (1 - a) * behind[c]!;
        for (const post of posts) {
          const across = x - gx - post.x;
          const p = Math.min(Math.max(post.width / 2 - Math.abs(across) + 0.5, 0), 1);
          if (p === 0) continue;
          const under = [colour[0]!, colour[1]!, colour[2]!];
          sample(colour, post.from, post.at[0] + across, post.at[1] + (y - gy) * 0.4);
          for (let c = 0; c < 3; c++) colour[c] = p * colour[c]! + (1 - p) * under[c]!;
          a *= 1 - p;
        }
        for (let c = 0; c < 3; c++) sum[3 * i + c]! += colour[c]! / taps;
        alpha[i]! += a / taps;
      }
  }
  const light = 1 + gain * Math.sin(t / 5);
  // a fixed sequence of noise for each frame: uniform of variance 2² (linear congruential, Numerical Recipes)
  let state = (t * 2654435761 + 12345) >>> 0;
  const noise = () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return (state / 2 ** 32 - 0.5) * 7;
  };
  const planes = [0, 1, 2].map(() => new Uint8Array(n)) as [Uint8Array, Uint8Array, Uint8Array];
  for (let i = 0; i < n; i++)
    for (let c = 0; c < 3; c++)
      planes[c]![i] = Math.min(Math.max(Math.round(light * sum[3 * i + c]! + noise()), 0), 255);
  return { codes: { width: WIDTH, height: HEIGHT, r: planes[0], g: planes[1], b: planes[2] }, alpha };
}
