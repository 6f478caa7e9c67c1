// A contact sheet of a tracked region in any video: `npx tsx scripts/contactSheet.ts VIDEO x0 y0 x1 y1 OUT.jpg`. The
// region is drawn on frame 0 and followed until the tracker stops; twelve frames are shown with the region's outline
// and a cross in it.
import { spawnSync, execFileSync } from 'node:child_process';
import {
  lumaOfCodes,
  maskOf,
  PlaneTracker,
  project,
  pyramidOf,
  STILL,
  type Homography,
} from '../packages/core/src/index.ts';
import { words } from '../packages/server/src/media/words.ts';

const [video, ...rest] = process.argv.slice(2);
const [x0, y0, x1, y1] = rest.slice(0, 4).map(Number) as [number, number, number, number];
const out = rest[4]!;
const [width, height] = execFileSync('ffprobe', [
  ...words('-v error -select_streams v -show_entries stream=width,height -of csv=p=0'),
  video!,
])
  .toString()
  .trim()
  .split(/[,\n]/)
  .map(Number) as [number, number];
const raw = execFileSync(
  'ffmpeg',
  ['-v', 'error', '-i', video!, '-frames:v', '240', '-f', 'rawvideo', '-pix_fmt', 'gbrp', '-'],
  { maxBuffer: 2e9 },
);
const size = width * height;
const planes = (t: number) =>
  [2, 0, 1].map((c) => raw.subarray((3 * t + c) * size, (3 * t + c + 1) * size)) as [Buffer, Buffer, Buffer];
const pyramid = (t: number) => pyramidOf(lumaOfCodes(...planes(t), 255), width, height);
const frames = Math.floor(raw.length / size / 3);

const region = maskOf(
  { form: 'rectangle', cx: (x0 + x1) / 2, cy: (y0 + y1) / 2, width: x1 - x0, height: y1 - y0, turnDeg: 0 },
  width,
  height,
);
const tracker = new PlaneTracker(pyramid(0), region, undefined, {
  move: true,
  turn: true,
  scale: true,
  shear: true,
  perspective: true,
});
const motions: Homography[] = [STILL];
for (let t = 1; t < frames; t++) {
  const found = tracker.step(pyramid(t));
  if (found.lost) {
    console.log(`stopped on frame ${t}: ${found.lost}`);
    break;
  }
  motions.push(found.motion);
}
console.log(`${motions.length} of ${frames} frames`);

/** A frame in RGB with lines drawn on it: white with a dark rim, so that they are seen on anything. */
function drawn(t: number): Buffer {
  const [r, g, b] = planes(t);
  const rgb = Buffer.alloc(3 * size);
  for (let i = 0; i < size; i++) rgb.set([r[i]!, g[i]!, b[i]!], 3 * i);
  const dot = (x: number, y: number, value: number, radius: number) => {
    for (let v = Math.round(y) - radius; v <= Math.round(y) + radius; v++)
      for (let u = Math.round(x) - radius; u <= Math.round(x) + radius; u++)
        if (u >= 0 && v >= 0 && u < width && v < height) rgb.fill(value, 3 * (v * width + u), 3 * (v * width + u) + 3);
  };
  const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2];
  const lines: [number, number, number, number][] = [
    [x0, y0, x1, y0],
    [x1, y0, x1, y1],
    [x1, y1, x0, y1],
    [x0, y1, x0, y0],
    [cx - 12, cy, cx + 12, cy],
    [cx, cy - 12, cx, cy + 12],
  ];
  for (const [value, radius] of [
    [0, 2],
    [255, 1],
  ] as const)
    for (const [ax, ay, bx, by] of lines) {
      const n = Math.ceil(2 * Math.hypot(bx - ax, by - ay));
      for (let k = 0; k <= n; k++)
        dot(
          ...(project(motions[t]!, ax + ((bx - ax) * k) / n, ay + ((by - ay) * k) / n).map((v) => v - 0.5) as [
            number,
            number,
          ]),
          value,
          radius,
        );
    }
  return rgb;
}
const shown = Array.from({ length: 12 }, (_, k) => Math.round((k * (motions.length - 1)) / 11));
/** The region on frame 0 with half its size all round. */
const [cw, ch] = [Math.min(2 * (x1 - x0), width), Math.min(Math.round(1.5 * (y1 - y0)), height)];
const crop = `${cw}:${ch}:${Math.min(Math.max(Math.round((x0 + x1 - cw) / 2), 0), width - cw)}:${Math.min(Math.max(Math.round((y0 + y1 - ch) / 2), 0), height - ch)}`;
const sheet = spawnSync(
  'ffmpeg',
  [
    ...words('-v error -y -f rawvideo -pix_fmt rgb24 -video_size'),
    `${width}x${height}`,
    '-i',
    '-',
    '-vf',
    `crop=${crop},tile=6x2`,
    '-frames:v',
    '1',
    '-q:v',
    '3',
    out,
  ],
  { input: Buffer.concat(shown.map(drawn)), maxBuffer: 1e9 },
);
if (sheet.status !== 0) throw new Error(sheet.stderr.toString());
console.log(`${out}: frames ${shown.join(', ')}`);
