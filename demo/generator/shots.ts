// What the generator renders: each shot's scene, length, camera finish, and the pieces whose ground truth it holds.

export interface DemoShot {
  name: string;
  scene: string;
  frames: number;
  fps: number;
  pieces: { name: string; matte: number }[];
  /** Jittered passes a frame: sub-pixel, lens, shutter and light samples all at once. Wide blur wants more. */
  passes: number;
  /** Share of the frame's time the shutter is open: 0.5 is 180°. */
  shutter: number;
  /** Does the scene gather bounced light? Then it is recorded once and read by every pass. */
  radiosity: boolean;
  /** Whose surface the rectangle of the motion truth lies on. */
  surface: string;
  /** Linear gain before the film curve, stops. */
  exposureStops: number;
  /** Standard deviation of the grain on encoded values. */
  grain: number;
  seed: number;
}

export const WIDTH = 1280;
export const HEIGHT = 720;
/** Frames, and size, of the stills that recolours are judged by. */
export const TRUTH_FRAMES = [6, 18, 30, 42];
export const TRUTH_SIZE = { width: 640, height: 360 };

export const SHOTS: DemoShot[] = [
  {
    name: 'shot-1-platform',
    scene: 'platform.pov',
    frames: 48,
    fps: 24,
    pieces: [
      { name: 'suitcase', matte: 1 },
      { name: 'scarf', matte: 2 },
    ],
    passes: 4,
    shutter: 0.5,
    radiosity: true,
    surface: 'suitcase front',
    exposureStops: 0.15,
    grain: 0.0055,
    seed: 101,
  },
  {
    name: 'shot-2-cafe',
    scene: 'cafe.pov',
    frames: 48,
    fps: 24,
    pieces: [{ name: 'suitcase', matte: 1 }],
    passes: 4,
    shutter: 0.5,
    radiosity: true,
    surface: 'suitcase front',
    exposureStops: 0.35,
    grain: 0.008,
    seed: 202,
  },
  {
    name: 'shot-3-street',
    scene: 'street.pov',
    frames: 48,
    fps: 24,
    pieces: [{ name: 'scooter', matte: 3 }],
    passes: 3,
    shutter: 0.2, // 72°: the camera travels past, and wide steps between three passes would show as copies
    radiosity: true,
    surface: 'scooter flank',
    exposureStops: 0.5,
    grain: 0.0105,
    seed: 303,
  },
  {
    name: 'shot-4-turn',
    scene: 'turn.pov',
    frames: 48,
    fps: 24,
    pieces: [{ name: 'suitcase', matte: 1 }],
    passes: 4,
    shutter: 0.5,
    radiosity: false,
    surface: 'suitcase front',
    exposureStops: 0.2,
    grain: 0.0045,
    seed: 404,
  },
  {
    name: 'shot-5-gate',
    scene: 'gate.pov',
    frames: 48,
    fps: 24,
    pieces: [
      { name: 'scarf', matte: 2 },
      { name: 'lantern', matte: 4 },
    ],
    passes: 3,
    shutter: 0.5,
    radiosity: false,
    surface: 'wall and gate',
    exposureStops: 0.1,
    grain: 0.006,
    seed: 505,
  },
];

/**
 * Pieces can be rendered really in another colour (linear 709 reflectance), for ground truth of a recolour; the first
 * is the one they have. The last two of each piece are for judging only: no method was tuned on them.
 */
export const PAINTS: Record<string, Record<string, [number, number, number]>> = {
  suitcase: {
    teal: [0.045, 0.24, 0.235],
    marigold: [0.62, 0.27, 0.025],
    plum: [0.13, 0.035, 0.11],
    fern: [0.09, 0.2, 0.045],
    slate: [0.06, 0.1, 0.24],
    sand: [0.48, 0.36, 0.2],
  },
  scarf: {
    madder: [0.36, 0.055, 0.035],
    rust: [0.42, 0.11, 0.035],
    moss: [0.1, 0.15, 0.045],
    ink: [0.03, 0.035, 0.09],
  },
  scooter: {
    mint: [0.33, 0.56, 0.44],
    oxblood: [0.14, 0.015, 0.014],
    cobalt: [0.03, 0.07, 0.32],
    ochre: [0.42, 0.24, 0.05],
  },
  lantern: {
    'pale grey': [0.56, 0.565, 0.57],
    'petrol blue': [0.018, 0.085, 0.13],
    brick: [0.33, 0.09, 0.05],
    graphite: [0.045, 0.045, 0.05],
  },
};
