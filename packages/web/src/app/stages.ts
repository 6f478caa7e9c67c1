import { useParams } from 'react-router';

/** The stages of the work, in their order. */
export const STAGES = {
  shots: 'Shots',
  isolate: 'Isolate',
  recolour: 'Recolour',
  lineup: 'Line-up',
  deliver: 'Deliver',
} as const;
export type StageName = keyof typeof STAGES;
const isStage = (name: string): name is StageName => name in STAGES;

/** The stage that is shown; the first where the address names none. */
export function useStage(): StageName {
  const { stage = 'shots' } = useParams();
  return isStage(stage) ? stage : 'shots';
}
