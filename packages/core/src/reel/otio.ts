// Cut lists in the OpenTimelineIO interchange format: JSON objects that name their schema and its version ("File Format
// Specification" and "Serialized Data Documentation" of OpenTimelineIO 0.17, Academy Software Foundation; from memory).
import { CutListError, type CutEvent, type CutList, type CutSource } from './cutEvent.ts';

/** The newest version of each schema that is read. */
const READ: Record<string, number> = {
  Timeline: 1,
  Stack: 1,
  Track: 1,
  Clip: 2,
  Gap: 1,
  Transition: 1,
  ExternalReference: 1,
  ImageSequenceReference: 1,
  MissingReference: 1,
  GeneratorReference: 1,
  LinearTimeWarp: 1,
  FreezeFrame: 1,
  TimeEffect: 1,
  RationalTime: 1,
  TimeRange: 1,
};
const MOST_CLIPS = 10_000;

type Fields = Record<string, unknown>;
/** An object of the file, and where it stands. */
interface Item {
  kind: string;
  fields: Fields;
  path: string;
}
const refused = (path: string, what: string): CutListError => new CutListError(`${path || 'The file'}: ${what}`);

/** An object as its schema says; undefined for null and what is left out. */
function itemAt(value: unknown, path: string): Item | undefined {
  if (value === null || value === undefined) return undefined;
  if (typeof value !== 'object' || Array.isArray(value)) throw refused(path, 'an object was expected.');
  const fields = value as Fields;
  const schema = fields.OTIO_SCHEMA;
  const [, kind, version] = (typeof schema === 'string' && /^([A-Za-z]\w*)\.(\d+)$/.exec(schema)) || [];
  if (kind === undefined) throw refused(path, 'it does not say its OTIO_SCHEMA.');
  const newest = READ[kind];
  if (newest !== undefined && Number(version) > newest)
    throw refused(path, `${kind}.${version} is newer than what is read (${kind}.${newest}).`);
  return { kind, fields, path };
}
const within = ({ path }: Item, field: string): string => (path ? `${path}.${field}` : field);
const child = (item: Item, field: string): Item | undefined => itemAt(item.fields[field], within(item, field));
function children(item: Item, field = 'children'): Item[] {
  const list = item.fields[field] ?? [];
  if (!Array.isArray(list)) throw refused(within(item, field), 'a list was expected.');
  return list.flatMap((value, k) => itemAt(value, `${within(item, field)}[${k}]`) ?? []);
}
const textOf = ({ fields }: Item, field: string): string => {
  const value = fields[field];
  return typeof value === 'string' ? value : '';
};
function numberOf(item: Item, field: string): number {
  const value = item.fields[field];
  if (typeof value !== 'number' || !Number.isFinite(value))
    throw refused(within(item, field), 'a number was expected.');
  return value;
}

/** A stretch of time in frames of one rate. */
interface Range {
  rate: number;
  from: number;
  frames: number;
}
function rangeOf(item: Item, field: string): Range | undefined {
  const range = child(item, field);
  const [start, duration] = [range && child(range, 'start_time'), range && child(range, 'duration')];
  if (!range || !start || !duration) return undefined;
  const [rate, other] = [numberOf(start, 'rate'), numberOf(duration, 'rate')];
  if (!(rate > 0) || !(other > 0)) throw refused(range.path, 'its rate must be over 0.');
  return { rate, from: numberOf(start, 'value'), frames: (numberOf(duration, 'value') / other) * rate };
}

/** The media of a clip: that of its active key (Clip.2), or the only one there is (Clip.1). */
function mediaOf(clip: Item): Item | undefined {
  const all = clip.fields.media_references;
  if (all === undefined || all === null) return child(clip, 'media_reference');
  const key = textOf(clip, 'active_media_reference_key') || 'DEFAULT_MEDIA';
  return itemAt((all as Fields)[key], `${within(clip, 'media_references')}.${key}`);
}

/** The last part of an address, as a file is called. */
function fileOf(url: string): string {
  const name = url.replace(/[?#].*$/, '').replace(/^.*[\\/]/, '');
  try {
    return decodeURIComponent(name);
  } catch {
    return name;
  }
}
function namesOf(clip: Item, media: Item | undefined): string[] {
  const ofMedia = media
    ? [fileOf(textOf(media, 'target_url')), textOf(media, 'name_prefix').replace(/[._-]+$/, '')]
    : [];
  return [...ofMedia, textOf(clip, 'name')].filter((name) => name !== '');
}

function sourceOf(clip: Item, media: Item | undefined): CutSource {
  const own = rangeOf(clip, 'source_range');
  const available = media && rangeOf(media, 'available_range');
  if (!own) return { by: 'all' };
  const first = available && (available.from / available.rate) * own.rate;
  const [from, to] = [Math.round(own.from), Math.round(own.from + own.frames)];
  return { by: 'frames', rate: own.rate, in: from, out: to, ...(first !== undefined && { first: Math.round(first) }) };
}

/** Why a clip cannot be taken as it is. */
function whyNot(clip: Item, media: Item | undefined): string | undefined {
  if (media?.kind === 'GeneratorReference') return 'its picture is generated, not footage';
  for (const effect of children(clip, 'effects')) {
    if (effect.fields.enabled === false) continue;
    if (effect.kind === 'FreezeFrame') return 'it stands still on one frame';
    if (effect.kind !== 'LinearTimeWarp' && effect.kind !== 'TimeEffect') continue;
    const scalar = effect.kind === 'LinearTimeWarp' ? numberOf(effect, 'time_scalar') : undefined;
    if (scalar !== 1) return scalar === undefined ? 'it is retimed' : `it is retimed to ${Math.round(scalar * 100)} %`;
  }
  return undefined;
}

/** Reads a timeline's video tracks, bottom first. Throws CutListError with the path of what is wrong. */
export function readOtio(text: string): CutList {
  let json: unknown;
  try {
    json = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    throw refused('', `it is no JSON (${error instanceof Error ? error.message : String(error)}).`);
  }
  const timeline = itemAt(json, '');
  if (timeline?.kind !== 'Timeline')
    throw refused('', `a Timeline was expected, it is a ${timeline?.kind ?? 'nothing'}.`);
  const stack = child(timeline, 'tracks');
  const tracks = stack ? children(stack).filter((t) => t.kind === 'Track' && textOf(t, 'kind') !== 'Audio') : [];
  const list: CutList = { title: textOf(timeline, 'name'), events: [], notes: [] };
  tracks.forEach((track, k) => readTrack(list, track, textOf(track, 'name') || `video ${k + 1}`));
  if (list.events.length === 0) throw refused('tracks', 'no clip was found on a video track.');
  return list;
}

function readTrack(list: CutList, track: Item, trackName: string): void {
  children(track).forEach((item, k) => {
    const where = `Track ${trackName}, item ${k + 1}`;
    if (item.kind === 'Clip') list.events.push(eventOf(item, list.events.length, where));
    else if (item.kind === 'Transition') list.notes.push(`${where}: a transition is put in as a cut.`);
    else if (item.kind !== 'Gap') list.notes.push(`${where}: a ${item.kind} within a track is not read.`);
    if (list.events.length > MOST_CLIPS) throw refused(item.path, `more than ${MOST_CLIPS} clips.`);
  });
}

function eventOf(clip: Item, before: number, where: string): CutEvent {
  const media = mediaOf(clip);
  const footage = namesOf(clip, media);
  const reason = whyNot(clip, media);
  const number = String(before + 1).padStart(3, '0');
  return {
    where,
    name: `${number} ${textOf(clip, 'name') || (footage[0] ?? '')}`.trim(),
    footage,
    source: sourceOf(clip, media),
    ...(reason !== undefined && { whyNot: reason }),
  };
}
