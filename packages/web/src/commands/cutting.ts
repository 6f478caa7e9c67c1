// Which frames of its footage a shot shows: cut in two, joined, trimmed. Nothing of the footage is copied.
import {
  framesOf,
  type Media,
  type ProjectDocument,
  type Recipe,
  type Shot,
  type ShotId,
  type Sighting,
  type Span,
  type Track,
} from '@mellow/contract';
import type { Change } from '../editing/change.ts';
import { applyEdit } from '../editing/optimistic.ts';

type Edits = Change['edits'];
const mediaOf = (document: ProjectDocument, shot: Shot): Media => document.media.find((m) => m.id === shot.mediaId)!;
const spanOf = (document: ProjectDocument, shot: Shot): Span => framesOf(shot, mediaOf(document, shot));

/** A span as it is stored: none where it is all of the footage. */
function storedSpan(media: Media, span: Span): Span | null {
  return span.from === 0 && span.to === media.frames - 1 ? null : span;
}
const withSpan = (document: ProjectDocument, shot: Shot, span: Span): Shot => ({
  ...shot,
  span: storedSpan(mediaOf(document, shot), span),
});
const put = (label: string, shot: Shot): Change => ({ label, edits: [{ kind: 'shot', id: shot.id, value: shot }] });

/** Lets a shot begin or end at a frame; no change where that leaves nothing, or all as it is. */
export function trimShot(document: ProjectDocument, shot: Shot, end: 'from' | 'to', frame: number): Change {
  const span = spanOf(document, shot);
  const next = { ...span, [end]: frame };
  const label = `${shot.name} ${end === 'from' ? 'begins' : 'ends'} at frame ${frame}`;
  if (next.from > next.to || next[end] === span[end]) return { label, edits: [] };
  return put(label, withSpan(document, shot, next));
}
/** Shows all of the footage again. */
export const untrimShot = (shot: Shot): Change => put(`All frames of ${shot.name}`, { ...shot, span: null });

/** Names every id of what is copied anew, wherever it stands. */
function renamed<T>(value: T, names: ReadonlyMap<string, string>): T {
  let text = JSON.stringify(value);
  for (const [from, to] of names) text = text.replaceAll(from, to);
  return JSON.parse(text) as T;
}

/**
 * Cuts a shot in two before a frame. Both have all that hung on the whole: mattes with their keyframes, tracks,
 * balance, light and the recipes' keyframes in it. No change at the shot's first frame. `newId` makes ids.
 */
export function splitShot(document: ProjectDocument, shot: Shot, frame: number, newId: () => string): Change {
  const span = spanOf(document, shot);
  const label = `Split ${shot.name} at frame ${frame}`;
  if (frame <= span.from || frame > span.to) return { label, edits: [] };
  const ofShot = <T extends { shotId: string }>(rows: readonly { value: T }[]): T[] =>
    rows.map((r) => r.value).filter((v) => v.shotId === shot.id);
  const sightings: Sighting[] = ofShot(document.sightings);
  const tracks: Track[] = ofShot(document.tracks);
  const names = new Map([shot, ...sightings, ...tracks].map(({ id }) => [id, newId()]));
  const later = document.shots.map((s) => s.value).filter((s) => s.position > shot.position);
  const second = renamed(shot, names);
  const shots: Shot[] = [
    withSpan(document, shot, { from: span.from, to: frame - 1 }),
    {
      ...withSpan(document, second, { from: frame, to: span.to }),
      name: nameAfter(document, shot.name),
      position: shot.position + 1,
    },
    ...later.map((s) => ({ ...s, position: s.position + 1 })),
  ];
  const edits: Edits = [
    ...shots.map((value) => ({ kind: 'shot' as const, id: value.id, value })),
    ...tracks.map((t) => renamed(t, names)).map((value) => ({ kind: 'track' as const, id: value.id, value })),
    ...sightings.map((s) => renamed(s, names)).map((value) => ({ kind: 'sighting' as const, id: value.id, value })),
    ...document.recipes.flatMap(({ value }) => copiedKeyframes(value, shot.id, second.id)),
  ];
  return { label, edits };
}
/** Cuts a shot before each of several frames, in one step. Frames at which it cannot be cut are left out. */
export function splitAt(document: ProjectDocument, shot: Shot, frames: readonly number[], newId: () => string): Change {
  const now = structuredClone(document);
  const edits = new Map<string, Edits[number]>();
  let rest = shot.id;
  for (const frame of [...frames].sort((a, b) => a - b)) {
    const split = splitShot(now, now.shots.find((s) => s.value.id === rest)!.value, frame, newId).edits;
    for (const edit of split) {
      applyEdit(now, edit);
      edits.set(edit.id, edit);
    }
    // the second of its shots begins at the frame: that is what the next cut divides
    rest = (split[1]?.id as ShotId | undefined) ?? rest;
  }
  return { label: `Split ${shot.name} at ${frames.length} cuts`, edits: [...edits.values()] };
}
function copiedKeyframes(recipe: Recipe, from: ShotId, to: ShotId): Edits {
  const keys = recipe.animated[from];
  if (!keys) return [];
  return [{ kind: 'recipe', id: recipe.id, value: { ...recipe, animated: { ...recipe.animated, [to]: keys } } }];
}
/** A name like another's that no shot has yet. */
function nameAfter(document: ProjectDocument, name: string): string {
  const taken = new Set(document.shots.map((s) => s.value.name));
  const [, stem = name, number] = /^(.*?)(?: \((\d+)\))?$/.exec(name) ?? [];
  for (let n = Number(number ?? 1) + 1; ; n++) if (!taken.has(`${stem} (${n})`)) return `${stem} (${n})`;
}

/** The shot that goes on with the same footage where this one ends, if it is the next in the reel. */
export function continuationOf(document: ProjectDocument, shot: Shot): Shot | undefined {
  const shots = document.shots.map((s) => s.value);
  const next = shots[shots.findIndex((s) => s.id === shot.id) + 1];
  if (!next || next.mediaId !== shot.mediaId) return undefined;
  return spanOf(document, next).from === spanOf(document, shot).to + 1 ? next : undefined;
}
/** Makes one shot of two that follow one another: the work of the first stands, the second goes. */
export function joinShots(document: ProjectDocument, shot: Shot, next: Shot): Change {
  const whole = withSpan(document, shot, { from: spanOf(document, shot).from, to: spanOf(document, next).to });
  const { referenceShotId } = document.project.value;
  return {
    label: `Join ${next.name} to ${shot.name}`,
    edits: [
      ...(referenceShotId === next.id
        ? [
            {
              kind: 'project' as const,
              id: document.project.value.id,
              value: { ...document.project.value, referenceShotId: shot.id },
            },
          ]
        : []),
      { kind: 'shot', id: next.id, value: null },
      { kind: 'shot', id: shot.id, value: whole },
    ],
  };
}
