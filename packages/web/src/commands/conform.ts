// A cut list laid over footage that is there: its events become the shots of the reel.
import { framesOfTimecode, type Media, type ProjectDocument, type Shot, type ShotId } from '@mellow/contract';
import type { Edl, EdlEvent } from '@mellow/core';
import type { Change } from '../editing/change.ts';

export interface Conformed {
  change: Change;
  /** Shots that it makes. */
  made: number;
  /** Events that could not be taken, and why. */
  left: string[];
}
/** A name without folder, extension and case, as lists and files spell it differently. */
const plain = (name: string): string =>
  name
    .replace(/^.*[\\/]/, '')
    .replace(/\.[a-z0-9]{1,5}$/i, '')
    .toLowerCase();

/** The frames of a piece of footage that an event shows; undefined where it does not hold them. */
function framesIn(media: Media, { source }: EdlEvent): { from: number; to: number } | undefined {
  const [start, from, end] = [media.timecode ?? '00:00:00:00', source.in, source.out].map((t) =>
    framesOfTimecode(t, media.fps),
  );
  if (start === undefined || from === undefined || end === undefined) return undefined;
  const span = { from: from - start, to: end - start - 1 };
  return span.from >= 0 && span.from <= span.to && span.to < media.frames ? span : undefined;
}

/** The footage of an event: that of its clip's or its reel's name, else the only one that holds its timecodes. */
function footageOf(document: ProjectDocument, event: EdlEvent): Media | string {
  const names = [event.clipName, event.reel].filter((n) => n !== undefined).map(plain);
  const named = document.media.filter((m) => names.includes(plain(m.name)));
  const called = event.clipName ?? event.reel;
  if (named.length > 0)
    return named.find((m) => framesIn(m, event)) ?? `${called} does not hold ${event.source.in} to ${event.source.out}`;
  const holding = document.media.filter((m) => m.timecode !== null && framesIn(m, event));
  if (holding.length === 1) return holding[0]!;
  return holding.length === 0
    ? `there is no footage of ${called}`
    : `${called} could be any of ${holding.length} files`;
}

/** What of an event cannot be taken over, whatever its footage. */
function whyNot({ transition, speed, reel }: EdlEvent): string | undefined {
  if (reel === 'BL') return 'it is black';
  if (speed !== undefined) return `it is retimed to ${speed} frames a second`;
  return transition === 'C' ? undefined : 'it is no cut; put it in as a cut, and the transition afterwards';
}

/** Has anything been done in a shot yet? */
const isWorkedOn = ({ sightings, tracks, project }: ProjectDocument, { id, balance, light }: Shot): boolean =>
  balance !== null ||
  light !== null ||
  project.value.referenceShotId === id ||
  [...sightings, ...tracks].some((row) => row.value.shotId === id);

/**
 * Makes a shot of every picture event of a list, in the list's order, behind the shots that are there. Whole pieces of
 * footage that are cut up by it, and in which nothing was done yet, make room. `newId` makes ids.
 */
export function conform(document: ProjectDocument, { title, events }: Edl, newId: () => string): Conformed {
  const left: string[] = [];
  const used = new Set<string>();
  const shots: Shot[] = [];
  const position = Math.max(-1, ...document.shots.map((s) => s.value.position)) + 1;
  for (const event of events.filter((e) => /V|B/.test(e.channels) && !e.channels.startsWith('A'))) {
    const reason = whyNot(event);
    const media = reason ?? footageOf(document, event);
    if (typeof media === 'string') {
      left.push(`Event ${event.number}, line ${event.line}: ${media}.`);
      continue;
    }
    used.add(media.id);
    const like = document.shots.find((s) => s.value.mediaId === media.id)?.value;
    shots.push({
      id: newId() as ShotId,
      projectId: document.project.value.id,
      mediaId: media.id,
      name: `${event.number} ${event.clipName ?? event.reel}`.slice(0, 120),
      position: position + shots.length,
      encoding: like?.encoding ?? media.proposedEncoding,
      balance: null,
      light: null,
      patches: [],
      span: framesIn(media, event)!,
    });
  }
  const replaced = document.shots
    .map((s) => s.value)
    .filter((s) => s.span === null && used.has(s.mediaId) && !isWorkedOn(document, s));
  const edits: Change['edits'] = [
    ...replaced.map(({ id }) => ({ kind: 'shot' as const, id, value: null })),
    ...shots.map((value) => ({ kind: 'shot' as const, id: value.id, value })),
  ];
  return { change: { label: `Cut list ${title}`.trim(), edits }, made: shots.length, left };
}
