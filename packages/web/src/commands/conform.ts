// A cut list laid over footage that is there: its events become the shots of the reel.
import { framesOfTimecode, type Media, type ProjectDocument, type Shot, type ShotId } from '@mellow/contract';
import type { CutEvent, CutList } from '@mellow/core';
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
    // numbered images are shown as name.[first-last].extension
    .replace(/[._-]?\[\d+-\d+\]$/, '')
    .toLowerCase();

/** First and last frame of footage, counted from 0. */
interface Frames {
  from: number;
  to: number;
}
const numbered = (media: Media, timecode: string | null): number | undefined =>
  framesOfTimecode(timecode ?? '00:00:00:00', media.fps);

/** The frames that an event asks of a piece of footage, there or not; undefined where they cannot be told. */
function askedOf(media: Media, { source }: CutEvent): Frames | undefined {
  if (source.by === 'all') return { from: 0, to: media.frames - 1 };
  if (source.by === 'timecode') {
    const [start, from, end] = [media.timecode, source.in, source.out].map((t) => numbered(media, t));
    if (start === undefined || from === undefined || end === undefined) return undefined;
    return { from: from - start, to: end - start - 1 };
  }
  if (Math.abs(source.rate - media.fps.num / media.fps.den) > SAME_RATE) return undefined;
  // counted from the timecode where the list does not say where the footage begins, and from 0 where that is past it
  const start = source.first ?? numbered(media, media.timecode) ?? 0;
  const first = source.first === undefined && source.in < start ? 0 : start;
  return { from: source.in - first, to: source.out - first - 1 };
}
/** Rates are written with three decimals, or as 23.976024. */
const SAME_RATE = 0.005;

/** The frames of a piece of footage that an event shows; undefined where it does not hold them. */
function framesIn(media: Media, event: CutEvent): Frames | undefined {
  const span = askedOf(media, event);
  return span && span.from >= 0 && span.from <= span.to && span.to < media.frames ? span : undefined;
}

/** What an event asks for, in words. */
function askedInWords({ source }: CutEvent): string {
  if (source.by === 'all') return 'all of it';
  if (source.by === 'timecode') return `${source.in} to ${source.out}`;
  return `frames ${source.in} to ${source.out - 1} at ${Number(source.rate.toFixed(3))} frames a second`;
}

/** The footage of an event: that of one of its names, else the only one that holds its timecodes. */
function footageOf(document: ProjectDocument, event: CutEvent): Media | string {
  const names = event.footage.map(plain);
  const named = document.media.filter((m) => names.includes(plain(m.name)));
  const called = event.footage[0] ?? 'it';
  if (named.length > 0)
    return named.find((m) => framesIn(m, event)) ?? `${called} does not hold ${askedInWords(event)}`;
  if (event.source.by === 'all') return `there is no footage of ${called}`;
  const holding = document.media.filter((m) => m.timecode !== null && framesIn(m, event));
  if (holding.length === 1) return holding[0]!;
  return holding.length === 0
    ? `there is no footage of ${called}`
    : `${called} could be any of ${holding.length} files`;
}

/** Has anything been done in a shot yet? */
const isWorkedOn = ({ sightings, tracks, project }: ProjectDocument, { id, balance, light }: Shot): boolean =>
  balance !== null ||
  light !== null ||
  project.value.referenceShotId === id ||
  [...sightings, ...tracks].some((row) => row.value.shotId === id);

/**
 * Makes a shot of every event of a list, in the list's order, behind the shots that are there. Whole pieces of
 * footage that are cut up by it, and in which nothing was done yet, make room. `newId` makes ids.
 */
export function conform(document: ProjectDocument, { title, events, notes }: CutList, newId: () => string): Conformed {
  const left: string[] = [...notes];
  const used = new Set<string>();
  const shots: Shot[] = [];
  const position = Math.max(-1, ...document.shots.map((s) => s.value.position)) + 1;
  for (const event of events) {
    const media = event.whyNot ?? footageOf(document, event);
    if (typeof media === 'string') {
      left.push(`${event.where}: ${media}.`);
      continue;
    }
    used.add(media.id);
    const like = document.shots.find((s) => s.value.mediaId === media.id)?.value;
    shots.push({
      id: newId() as ShotId,
      projectId: document.project.value.id,
      mediaId: media.id,
      name: event.name.slice(0, 120),
      position: position + shots.length,
      encoding: like?.encoding ?? media.proposedEncoding,
      balance: null,
      light: null,
      patches: [],
      span: framesIn(media, event)!,
      look: null,
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
