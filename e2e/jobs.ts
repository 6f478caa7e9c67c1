// The pieces of the demo that are isolated by a key, a loose shape and a track, each as a colorist would do it.
import type { Page } from '@playwright/test';
import type { Driver, Place } from './driving.ts';
import { CAFE_TEAL } from './keys.ts';
import { follow, section, trackRegion } from './tracking.ts';

export interface Job {
  piece: string;
  shot: string;
  file: string;
  matte: string;
  /** The frame the track is drawn on. */
  frame: number;
  picks: [Place, Place][];
  numbers: [string, string][];
  cleanUp: [string, string][];
  loose: [Place, Place];
  region: [Place, Place];
  /** Kinds of motion the region does not make. */
  without: string[];
}
/** Isolates a piece and has its matte follow a track through the shot. */
export async function makeTracked(d: Driver, page: Page, job: Job): Promise<void> {
  await d.piece(job.piece);
  await d.shot(job.shot);
  await d.goTo(job.frame);
  await d.shown();
  await section(page, 'Layer');
  await page.getByRole('button', { name: 'Pick a colour to add' }).click();
  for (const [from, to] of job.picks) await d.pick(from, to);
  await page.getByRole('button', { name: /^Rectangle/ }).click();
  await d.pick(...job.loose);
  await d.layer('Range key 1');
  for (const [name, value] of job.numbers) await d.number(name, value);
  await section(page, 'Clean-up');
  for (const [name, value] of job.cleanUp) await d.number(name, value);
  await follow(d, page, 'Rectangle 1', await trackRegion(d, page, job.region, job.without));
}
const speckle: [string, string][] = [
  ['Despeckle islands of the stack', '80'],
  ['Despeckle holes of the stack', '60'],
];
const TEAL: [string, string][] = [
  ['hue, from', '165'],
  ['hue, to', '215'],
  ['hue, lower softness', '20'],
  ['hue, upper softness', '20'],
  ['chroma, from', '0.042'],
  ['chroma, to', '0.4'],
  ['chroma, lower softness', '0.03'],
  ['lightness, from', '0.08'],
  ['lightness, to', '0.97'],
  ['lightness, lower softness', '0.05'],
];
export const JOBS: Job[] = [
  {
    piece: 'Lark suitcase',
    shot: '1 Platform',
    file: 'shot-1-platform',
    matte: 'suitcase',
    frame: 24,
    picks: [
      [
        [340, 420],
        [420, 520],
      ],
    ],
    numbers: TEAL,
    cleanUp: speckle,
    loose: [
      [190, 230],
      [570, 710],
    ],
    region: [
      [290, 290],
      [545, 690],
    ],
    without: ['perspective'],
  },
  {
    piece: 'Scarf',
    shot: '1 Platform',
    file: 'shot-1-platform',
    matte: 'scarf',
    frame: 24,
    picks: [
      [
        [690, 170],
        [780, 260],
      ],
    ],
    numbers: [
      ['hue, from', '12'],
      ['hue, to', '30'],
      ['hue, lower softness', '15'],
      ['hue, upper softness', '10'],
      ['chroma, from', '0.07'],
      ['chroma, to', '0.4'],
      ['chroma, lower softness', '0.05'],
      ['lightness, from', '0.1'],
      ['lightness, to', '0.9'],
      ['lightness, lower softness', '0.05'],
    ],
    cleanUp: [
      ['Despeckle islands of the stack', '40'],
      ['Despeckle holes of the stack', '60'],
    ],
    loose: [
      [615, 95],
      [850, 385],
    ],
    region: [
      [652, 120],
      [816, 320],
    ],
    without: ['shear', 'perspective'],
  },
  {
    piece: 'Lark suitcase',
    shot: '2 Café',
    file: 'shot-2-cafe',
    matte: 'suitcase',
    frame: 5,
    picks: [
      [
        [380, 330],
        [404, 430],
      ],
    ],
    numbers: CAFE_TEAL,
    cleanUp: [...speckle, ['Soften of the stack', '0.7']],
    loose: [
      [352, 258],
      [640, 632],
    ],
    region: [
      [385, 320],
      [450, 610],
    ],
    without: ['turn', 'scale', 'shear', 'perspective'],
  },
  {
    piece: 'Scooter',
    shot: '3 Street',
    file: 'shot-3-street',
    matte: 'scooter',
    frame: 2,
    picks: [
      [
        [480, 420],
        [560, 480],
      ],
    ],
    numbers: [
      ['hue, from', '126'],
      ['hue, to', '212'],
      ['hue, lower softness', '30'],
      ['hue, upper softness', '30'],
      ['chroma, from', '0.018'],
      ['chroma, to', '0.4'],
      ['chroma, lower softness', '0.03'],
      ['lightness, from', '0.1'],
      ['lightness, to', '0.95'],
      ['lightness, lower softness', '0.05'],
    ],
    cleanUp: speckle,
    loose: [
      [320, 110],
      [1200, 680],
    ],
    region: [
      [360, 330],
      [770, 650],
    ],
    without: ['shear', 'perspective'],
  },
  {
    piece: 'Lark suitcase',
    shot: '4 Turn',
    file: 'shot-4-turn',
    matte: 'suitcase',
    frame: 24,
    picks: [
      [
        [600, 420],
        [700, 520],
      ],
    ],
    numbers: TEAL,
    cleanUp: [
      ['Despeckle islands of the stack', '200'],
      ['Despeckle holes of the stack', '300'],
    ],
    loose: [
      [360, 90],
      [1200, 715],
    ],
    region: [
      [720, 160],
      [960, 420],
    ],
    without: ['perspective'],
  },
  {
    piece: 'Scarf',
    shot: '5 Gate',
    file: 'shot-5-gate',
    matte: 'scarf',
    frame: 24,
    picks: [
      [
        [900, 300],
        [1150, 420],
      ],
    ],
    numbers: [
      ['hue, from', '30'],
      ['hue, to', '62'],
      ['hue, lower softness', '15'],
      ['hue, upper softness', '15'],
      ['chroma, from', '0.07'],
      ['chroma, to', '0.4'],
      ['chroma, lower softness', '0.04'],
      ['lightness, from', '0.08'],
      ['lightness, to', '0.95'],
      ['lightness, lower softness', '0.05'],
    ],
    cleanUp: [
      ['Despeckle islands of the stack', '10'],
      ['Despeckle holes of the stack', '30'],
    ],
    loose: [
      [840, 165],
      [1265, 700],
    ],
    region: [
      [870, 190],
      [1240, 640],
    ],
    without: ['shear', 'perspective'],
  },
];
