// Keys and shapes on real photographs: against outlines drawn by hand on them (a red glazed saucer on red-brown wood,
// an orange suit beside a red flag) and against the mask that ships with a picture (a red parrot behind a grid).
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import {
  frameMatte,
  RANGE_KEY_SPEC,
  makeTables,
  oklabFromLinear709,
  pictureFromRgba,
  selectionInto,
  shapeMatteInto,
  sourceFrame,
  linearFromCode,
  maskDistanceInto,
  windowsFromPicks,
  type CodePicture,
  type CodePlane,
  type Geometry,
  type Layer,
  type PathPoint,
  type RangeKey,
  type SourceFrame,
  type Stroke,
} from '../packages/core/src/index.ts';
import { seededRandom } from '../packages/core/src/track/random.ts';
import { compareMattes } from '../e2e/reading.ts';

const corner = (x: number, y: number): PathPoint => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 });
const polygon = (...at: [number, number][]): Geometry => ({ form: 'spline', points: at.map(([x, y]) => corner(x, y)) });
const ellipse = (cx: number, cy: number, rx: number, ry: number, turnDeg = 0): Geometry => ({
  form: 'ellipse',
  cx,
  cy,
  width: 2 * rx,
  height: 2 * ry,
  turnDeg,
});
const hard = { innerPx: 0, outerPx: 0, falloff: 'linear' as const };
const soft = { innerPx: 1, outerPx: 1, falloff: 'smooth' as const };
const joins = { id: 'layer', name: 'Layer', on: true, invert: false, strength: 1 };
const shape = (mode: Layer['mode'], geometry: Geometry): Layer => ({
  ...joins,
  kind: 'shape',
  mode,
  geometry,
  feather: soft,
});

function photograph(name: string, width: number, height: number): SourceFrame {
  const rgba = execFileSync(
    'ffmpeg',
    ['-v', 'error', '-i', join(import.meta.dirname, 'photographs', name), '-f', 'rawvideo', '-pix_fmt', 'rgba', '-'],
    { maxBuffer: 2e6 },
  );
  return sourceFrame(pictureFromRgba(rgba, width, height), 'srgb', 1, makeTables());
}
/** A range key from 5 × 5 picks at places of the picture, as a click makes them. */
function keyFrom({ codes }: SourceFrame, ...places: [number, number][]): RangeKey {
  const pick = ([x, y]: [number, number]) => ({
    sign: 'add' as const,
    samples: [-2, 0, 2].flatMap((dy) =>
      [-2, 0, 2].map((dx) => {
        const i = (y + dy) * codes.width + x + dx;
        return oklabFromLinear709(
          [codes.r[i]!, codes.g[i]!, codes.b[i]!].map((c) => linearFromCode('srgb', c / 255)) as [
            number,
            number,
            number,
          ],
        );
      }),
    ),
  });
  return windowsFromPicks(RANGE_KEY_SPEC, places.map(pick))!;
}
const keyLayer = (key: RangeKey): Layer => ({ ...joins, kind: 'range', mode: 'add', key, picks: [] });
/** An outline by hand: inside `whole`, outside everything in `taken`. */
function byHand(width: number, height: number, whole: Geometry, taken: Geometry[]): Float32Array {
  const plane = (geometry: Geometry) => {
    const out = new Float32Array(width * height);
    shapeMatteInto(out, width, height, { geometry, feather: hard }, 1);
    return out;
  };
  const out = plane(whole);
  for (const away of taken.map(plane)) for (let i = 0; i < out.length; i++) out[i] = out[i]! * (1 - away[i]!);
  return out;
}

it('isolates a glazed red saucer from red wood with four picks and two outlines: IoU ≥ 0.85', () => {
  const source = photograph('coffee.png', 600, 400);
  const layers = [
    keyLayer(keyFrom(source, [130, 200], [440, 220], [250, 350], [180, 330])),
    shape('within', ellipse(278, 227, 204, 159, 8)),
    shape('without', ellipse(290, 113, 118, 95)),
  ];
  // by hand: the saucer, without the white cup, the spoon's bowl and its handle
  const truth = byHand(600, 400, ellipse(278, 227, 203, 158, 8), [
    ellipse(290, 113, 119, 96),
    ellipse(366, 283, 40, 43),
    polygon([397, 66], [424, 74], [386, 242], [374, 240]),
  ]);
  const keyed = compareMattes(frameMatte(source, layers.slice(0, 1)), truth);
  const both = compareMattes(frameMatte(source, layers), truth);
  console.log(
    `saucer: key alone IoU ${keyed.iou.toFixed(3)}; key and shapes IoU ${both.iou.toFixed(3)}, ` +
      `mean absolute error ${both.mae.toFixed(4)}`,
  );
  expect(both.iou).toBeGreaterThan(0.85);
  expect(both.iou).toBeGreaterThan(keyed.iou);
});

it(
  'isolates an orange suit beside a red flag with nine picks, some in deep folds, and one ' +
    'loose outline: IoU ≥ 0.8',
  () => {
    const source = photograph('astronaut.png', 512, 512);
    const at = (x: number, y: number): [number, number] => [x / 2.8, 132 + y / 2.8]; // read off an enlargement
    const suit = polygon(
      at(318, 213),
      at(235, 275),
      at(180, 330),
      at(135, 400),
      at(112, 460),
      at(90, 520),
      at(70, 590),
      at(66, 680),
      at(58, 740),
      at(62, 860),
      at(72, 1000),
      at(80, 1064),
      at(300, 1064),
      at(350, 1030),
      at(440, 985),
      at(490, 1064),
      at(780, 1064),
      at(780, 960),
      at(800, 850),
      at(830, 750),
      at(880, 690),
      at(940, 640),
      at(1020, 610),
      at(1000, 520),
      at(965, 420),
      at(930, 360),
      at(880, 310),
      at(855, 290),
      at(850, 330),
      at(830, 400),
      at(780, 440),
      at(720, 455),
      at(640, 445),
      at(560, 425),
      at(480, 385),
      at(420, 345),
      at(380, 310),
      at(345, 250),
    );
    const scaled = (cx: number, cy: number, rx: number, ry: number) => ellipse(...at(cx, cy), rx / 2.8, ry / 2.8);
    const truth = byHand(512, 512, suit, [
      scaled(480, 710, 105, 105),
      scaled(485, 1000, 64, 72),
      polygon(at(778, 578), at(915, 600), at(922, 640), at(880, 690), at(793, 676)),
      polygon(
        at(650, 465),
        at(705, 465),
        at(725, 540),
        at(770, 620),
        at(772, 1064),
        at(724, 1064),
        at(724, 900),
        at(714, 958),
        at(682, 960),
        at(668, 800),
        at(682, 600),
        at(672, 520),
      ),
      polygon(at(630, 1064), at(636, 985), at(682, 935), at(700, 1064)),
    ]);
    const layers = [
      keyLayer(
        keyFrom(
          source,
          [215, 305],
          [100, 290],
          [150, 470],
          [330, 290],
          [60, 440],
          [193, 444],
          [36, 350],
          [56, 490],
          [290, 470],
        ),
      ),
      shape(
        'within',
        polygon(
          [112, 200],
          [40, 285],
          [15, 380],
          [15, 511],
          [290, 511],
          [300, 400],
          [375, 350],
          [350, 240],
          [308, 230],
          [304, 268],
          [270, 296],
          [230, 292],
          [172, 268],
          [125, 222],
        ),
      ),
    ];
    const alpha = frameMatte(source, layers);
    const { iou, mae } = compareMattes(alpha, truth);
    console.log(`suit: IoU ${iou.toFixed(3)}, mean absolute error ${mae.toFixed(4)}`);
    expect(iou).toBeGreaterThan(0.8);
  },
);

const [PARROT_W, PARROT_H] = [495, 498];
/** Of a matte of the parrot, how much of the plumage between the wires is selected, and how much of the wires. */
function plumageAndWires(alpha: Float32Array): { between: number; wire: number } {
  const wires = execFileSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-i',
      join(import.meta.dirname, 'photographs/parrot-grid.png'),
      '-f',
      'rawvideo',
      '-pix_fmt',
      'gray',
      '-',
    ],
    { maxBuffer: 1e6 },
  );
  // by hand: a part of the body that is plumage all over, but for the wires
  const body = byHand(
    PARROT_W,
    PARROT_H,
    polygon([128, 170], [240, 160], [300, 200], [330, 320], [250, 320], [140, 280], [118, 200]),
    [],
  );
  // the mask was made for filling in, wider than the wires: 4 px inside it there is only wire
  const depth = new Float32Array(wires.length);
  const between = Uint8Array.from(wires, (v) => (v === 0 ? 1 : 0));
  maskDistanceInto(depth, between, PARROT_W, PARROT_H);
  const share = (wanted: (i: number) => boolean) => {
    let [taken, all] = [0, 0];
    for (let i = 0; i < alpha.length; i++)
      if (body[i]! > 0.5 && wanted(i)) {
        taken += alpha[i]!;
        all++;
      }
    return taken / all;
  };
  return { between: share((i) => wires[i] === 0), wire: share((i) => depth[i]! > 4) };
}
/** The picture of 16 bits that a render has where the viewer has this one: each code up to half a code off. */
function asRendered({ width, height, r, g, b }: CodePicture, seed: number): CodePicture {
  const random = seededRandom(seed);
  const near = (code: number) => Math.min(Math.max(257 * (code + random() - 0.5), 0), 65535);
  const deep = (plane: CodePlane) => Uint16Array.from(plane, near);
  return { width, height, r: deep(r), g: deep(g), b: deep(b) };
}
it('a render takes the bars that were seen to be in, where half a code decides them', () => {
  const stroke = (sign: Stroke['sign'], ...points: Stroke['points']): Stroke => ({ sign, widthPx: 8, points });
  const layer: Layer = {
    ...joins,
    kind: 'scribble',
    mode: 'add',
    strokes: [
      stroke('in', [130, 110], [118, 170], [150, 210], [130, 280], [160, 315]),
      stroke('out', [30, 90], [40, 200], [50, 400], [140, 460]),
      stroke('out', [400, 90], [465, 120], [460, 400]),
    ],
  };
  const viewer = photograph('parrot.png', PARROT_W, PARROT_H);
  const shown = frameMatte(viewer, [layer]);
  const tables = makeTables();
  let least = 1;
  for (let seed = 1; seed <= 3; seed++) {
    const codes = asRendered(viewer.codes, seed);
    const alone = sourceFrame(codes, 'srgb', 1, tables);
    const rendered = sourceFrame(codes, 'srgb', 1, tables, { seen: viewer.codes });
    least = Math.min(least, compareMattes(frameMatte(alone, [layer]), shown).iou);
    expect(compareMattes(frameMatte(rendered, [layer]), shown).iou).toBeGreaterThan(0.998);
  }
  // what it would be otherwise
  expect(least).toBeLessThan(0.99);
});
const asPercent = ({ between, wire }: { between: number; wire: number }) =>
  `plumage: ${(between * 100).toFixed(1)} % selected between the wires, ${(wire * 100).toFixed(1)} % on them`;

it('keys red plumage and leaves out the wires before it, by the mask of the wires that ships with the picture', () => {
  const source = photograph('parrot.png', PARROT_W, PARROT_H);
  const picks = keyFrom(source, [140, 180], [220, 200], [160, 260], [240, 280], [125, 210]);
  const shares = plumageAndWires(frameMatte(source, [keyLayer(picks)]));
  console.log(`key: ${asPercent(shares)}`);
  expect(shares.between).toBeGreaterThan(0.95);
  expect(shares.wire).toBeLessThan(0.35);
});

it('scribbles over the plumage, across wires, and leaves them out: six strokes, none along a wire', () => {
  const source = photograph('parrot.png', PARROT_W, PARROT_H);
  const stroke = (sign: Stroke['sign'], ...points: Stroke['points']): Stroke => ({ sign, widthPx: 8, points });
  const alpha = new Float32Array(PARROT_W * PARROT_H);
  selectionInto(alpha, source.matteSource.seen(), source.matteSource.seen(), [
    stroke('in', [130, 110], [118, 170], [150, 210], [130, 280], [160, 315]),
    stroke('in', [210, 70], [240, 110], [215, 190], [230, 300]),
    stroke('in', [300, 220], [345, 290], [330, 400], [300, 460]),
    stroke('in', [390, 230], [405, 300]),
    stroke('out', [30, 90], [40, 200], [50, 400], [140, 460]),
    stroke('out', [400, 90], [465, 120], [460, 400]),
  ]);
  const shares = plumageAndWires(alpha);
  console.log(`scribble: ${asPercent(shares)}`);
  expect(shares.between).toBeGreaterThan(0.97);
  // the key takes 31 % of what that mask holds: it is wider than the wires
  expect(shares.wire).toBeLessThan(0.48);
});
