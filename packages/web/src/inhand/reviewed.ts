// What those who decide have said, where it concerns a sighting or a shot.
import type { Note, StandingVerdict } from '@mellow/contract';

export function verdictOf(
  verdicts: readonly StandingVerdict[],
  sightingId: string | undefined,
  colourwayId: string | undefined,
): StandingVerdict | undefined {
  return verdicts.find((v) => v.sightingId === sightingId && v.colourwayId === colourwayId);
}

/** A verdict by a mark and a few words; of what is there no longer it says so. */
export function verdictText({ decision, holds, who }: StandingVerdict): string {
  if (decision === 'approved') return holds ? `✓ approved by ${who}` : '△ changed since approved';
  return holds ? `↩ sent back by ${who}` : '△ changed since sent back';
}
/** The whole of it, for whoever wants to know more. */
export const verdictTitle = (verdict: StandingVerdict): string => {
  const at = new Date(verdict.at).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' });
  return `${verdictText(verdict)}, ${at}${verdict.text ? `: “${verdict.text}”` : ''}`;
};

/** Notes that are still to be seen to, of a shot and a colourway; those of no colourway are of all. */
export const openNotes = (
  notes: readonly Note[],
  shotId: string | undefined,
  colourwayId: string | undefined,
): Note[] =>
  notes.filter((n) => !n.isSettled && n.shotId === shotId && (n.colourwayId === null || n.colourwayId === colourwayId));

export const notesText = ({ length }: readonly Note[]): string => (length === 1 ? '1 note' : `${length} notes`);
export const notesTitle = (notes: readonly Note[]): string =>
  notes.map(({ frame, who, text }) => `${frame}, ${who}: ${text}`).join('\n');
