// The five steps from a pick to a render, each pointing at the control it is done with.
import type { StageName } from '../app/stages.ts';

export interface FirstStep {
  stage: StageName;
  /** The control, as a CSS selector. */
  at: string;
  title: string;
  text: string;
}
export const FIRST_STEPS: readonly FirstStep[] = [
  {
    stage: 'isolate',
    at: '[aria-label="Pick a colour to add"]',
    title: 'Pick',
    text: 'Take this and drag over the piece’s colour in the picture: a key is made of it. Pick again to widen it.',
  },
  {
    stage: 'isolate',
    at: '[aria-label="Rectangle"]',
    title: 'Round it',
    text: 'Draw loosely round the piece and set it to “within”: what looks alike elsewhere is left out.',
  },
  {
    stage: 'recolour',
    at: '[aria-label="Match"] button',
    title: 'Match',
    text: 'One press takes the measured colour to the required one. The swing and the ladder go on from there.',
  },
  {
    stage: 'lineup',
    at: '[aria-label="Line-up"] [role="columnheader"]',
    title: 'Line up',
    text: 'Every piece in every shot, edge to edge with its requirement. Take the shots’ lights, then solve the trims.',
  },
  {
    stage: 'deliver',
    at: '[data-step="render"]',
    title: 'Render',
    text: 'Choose shots and a format, read the checks, and render. The file is what you see.',
  },
];

const KEPT = 'mellow:first-steps';
/** Were the steps offered before, here, and answered either way? */
export const wasOffered = (storage: Pick<Storage, 'getItem'>): boolean => storage.getItem(KEPT) !== null;
export const answered = (storage: Pick<Storage, 'setItem'>): void => storage.setItem(KEPT, 'answered');
