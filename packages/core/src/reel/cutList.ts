import type { CutEvent, CutList } from './cutEvent.ts';
import { readEdl, type EdlEvent } from './edl.ts';
import { readOtio } from './otio.ts';

/**
 * Reads a cut list: an OpenTimelineIO file (JSON), or an edit decision list. Throws CutListError with the line or path.
 */
export function readCutList(text: string): CutList {
  if (/^\uFEFF?\s*\{/.test(text)) return readOtio(text);
  const { title, events } = readEdl(text);
  const pictures = events.filter((e) => /V|B/.test(e.channels) && !e.channels.startsWith('A'));
  return { title, events: pictures.map(fromEdl), notes: [] };
}

function fromEdl(event: EdlEvent): CutEvent {
  const { line, number, reel, clipName, source } = event;
  const reason = whyNot(event);
  return {
    where: `Event ${number}, line ${line}`,
    name: `${number} ${clipName ?? reel}`,
    footage: clipName === undefined ? [reel] : [clipName, reel],
    source: { by: 'timecode', ...source },
    ...(reason !== undefined && { whyNot: reason }),
  };
}

function whyNot({ transition, speed, reel }: EdlEvent): string | undefined {
  if (reel === 'BL') return 'it is black';
  if (speed !== undefined) return `it is retimed to ${speed} frames a second`;
  return transition === 'C' ? undefined : 'it is no cut; put it in as a cut, and the transition afterwards';
}
