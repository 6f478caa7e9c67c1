// Scribbles on the demo's shots against their rendered mattes, and against OpenCV's GrabCut (C. Rother, V. Kolmogorov,
// A. Blake 2004; JavaScript build) given the same strokes, five rounds, on the same pictures.
import { join } from 'node:path';
import { beforeAll, expect, it } from 'vitest';
import { makeTables, markedByStrokes, selectionInto, sourceFrame, type Stroke } from '../packages/core/src/index.ts';
import { compareMattes, edgeErrorPx, readGbr16, readGrey } from '../e2e/reading.ts';
import { cv, cvReady } from '../packages/core/src/testing/opencv.ts';

beforeAll(cvReady, 60_000);

const [W, H, SCALE] = [960, 540, 0.75];
const stroke = (sign: Stroke['sign'], ...points: [number, number][]): Stroke => ({ sign, widthPx: 14, points });
const tables = makeTables();

const CASES: { file: string; piece: string; frame: number; least: number; strokes: Stroke[] }[] = [
  {
    file: 'shot-1-platform',
    piece: 'suitcase',
    frame: 24,
    least: 0.96,
    strokes: [
      stroke('in', [264, 325], [281, 527], [387, 650], [501, 615], [492, 352], [352, 334]),
      stroke('out', [197, 281], [202, 686]),
      stroke('out', [559, 352], [571, 668]),
      stroke('out', [264, 243], [510, 243]),
      stroke('out', [325, 703], [527, 689]),
    ],
  },
  {
    file: 'shot-5-gate',
    piece: 'scarf',
    frame: 24,
    least: 0.955,
    strokes: [
      stroke('in', [923, 211], [1055, 440], [985, 563], [1143, 580], [1178, 229]),
      stroke('out', [861, 176], [861, 668]),
      stroke('out', [1252, 193], [1252, 633]),
      stroke('out', [914, 155], [1213, 155]),
      stroke('out', [932, 682], [1213, 682]),
    ],
  },
  {
    file: 'shot-3-street',
    piece: 'scooter',
    frame: 2,
    least: 0.93,
    strokes: [
      stroke('in', [378, 466], [527, 413], [721, 404], [703, 527], [756, 554], [949, 554], [985, 475], [1090, 501]),
      stroke('in', [888, 193], [897, 334], [949, 457]),
      stroke('out', [440, 343], [703, 343]),
      stroke('out', [440, 580], [633, 606]),
      stroke('out', [1002, 580], [1090, 580]),
      stroke('out', [316, 387], [316, 563]),
      stroke('out', [791, 264], [800, 510]),
      stroke('out', [985, 176], [1020, 404], [1196, 440]),
      stroke('out', [668, 668], [914, 668]),
    ],
  },
  // white and grey before grey stone and leaves: no colour of its own, so that the outline must tell
  {
    file: 'shot-5-gate',
    piece: 'lantern',
    frame: 24,
    least: 0.84,
    strokes: [
      stroke('in', [155, 378], [264, 378]),
      stroke('in', [148, 229], [148, 316], [167, 352]),
      stroke('in', [273, 229], [273, 316], [255, 352]),
      stroke('in', [172, 176], [232, 176]),
      stroke('in', [202, 199], [202, 211]),
      stroke('out', [211, 264], [211, 299]),
      stroke('out', [105, 141], [105, 369]),
      stroke('out', [316, 141], [316, 369]),
      stroke('out', [123, 141], [299, 141]),
      stroke('out', [141, 422], [290, 422]),
    ],
  },
];
it.each(CASES)(
  '$piece of $file: IoU of $least at least with a few strokes, and no worse than GrabCut',
  ({ file, piece, frame, least, strokes }) => {
    const [[g, b, r]] = readGbr16(
      join(import.meta.dirname, `media/${file}.mp4`),
      W,
      H,
      `select=eq(n\\,${frame}),zscale=w=${W}:h=${H}:matrixin=709:rangein=limited:matrix=gbr:` +
        `range=full:primariesin=709:primaries=709:transferin=709:transfer=709,format=gbrp16le`,
    ) as [Uint16Array[]];
    const truth = Float32Array.from(
      readGrey(join(import.meta.dirname, `truth/${file}.${piece}.mkv`), W, H)[frame]!,
      (v) => v / 255,
    );
    const ours = new Float32Array(W * H);
    const picture = sourceFrame({ width: W, height: H, r: r!, g: g!, b: b! }, 'rec709', SCALE, tables);
    selectionInto(ours, picture.matteSource.seen(), picture.matteSource.seen(), strokes);

    const bytes = new cv.Mat(H, W, cv.CV_8UC3);
    for (let i = 0; i < W * H; i++) [r!, g!, b!].forEach((plane, c) => (bytes.data[3 * i + c] = plane[i]! >> 8));
    const mask = new cv.Mat(H, W, cv.CV_8U);
    markedByStrokes(strokes, W, H, SCALE).forEach((m, i) => {
      const out = m < 0 ? cv.GC_BGD : cv.GC_PR_BGD;
      mask.data[i] = m > 0 ? cv.GC_FGD : out;
    });
    cv.grabCut(bytes, mask, new cv.Rect(0, 0, 1, 1), new cv.Mat(), new cv.Mat(), 5, cv.GC_INIT_WITH_MASK);
    const theirs = Float32Array.from(mask.data, (v) => (v === cv.GC_FGD || v === cv.GC_PR_FGD ? 1 : 0));

    const [own, other] = [compareMattes(ours, truth), compareMattes(theirs, truth)];
    console.log(
      `${piece}, ${file}: scribble IoU ${own.iou.toFixed(3)} (soft ${own.softIou.toFixed(3)}), ` +
        `edge ${edgeErrorPx(ours, truth, W, H).toFixed(2)} px; GrabCut ${other.iou.toFixed(3)}, ` +
        `${edgeErrorPx(theirs, truth, W, H).toFixed(2)} px`,
    );
    expect(own.iou).toBeGreaterThan(least);
    expect(own.iou).toBeGreaterThan(other.iou - 0.01);
  },
);
