/** The stages of the work, in their order. */
export const STAGES = {
  shots: 'Shots',
  isolate: 'Isolate',
  recolour: 'Recolour',
  lineup: 'Line-up',
  deliver: 'Deliver',
} as const;
export type StageName = keyof typeof STAGES;
export const isStage = (name: string): name is StageName => name in STAGES;
