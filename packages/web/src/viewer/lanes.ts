import type { Keyframe } from '@mellow/core';

/** One animated thing: its keyframes, and how to put others in their place (one step of the history). */
export interface Lane {
  id: string;
  label: string;
  keys: readonly Keyframe<unknown>[];
  put: (step: string, keys: readonly Keyframe<unknown>[]) => void;
}
/** A value per frame, 0..1, shown as a strip; undefined where there is none. */
export interface Strip {
  label: string;
  title: string;
  values: readonly (number | undefined)[];
  /** What stands beside the strip for a value; left out: the value itself. */
  text?: (value: number) => string;
  /** Frames set by hand, and where something stopped. */
  manual?: readonly number[];
  stops?: readonly { frame: number; text: string }[];
}
export const chosenKeyframe = (lane: string, frame: number): string => `${lane}@${frame}`;
export const chosenOf = (chosen: readonly string[], lane: string): Set<number> =>
  new Set(chosen.flatMap((c) => (c.startsWith(`${lane}@`) ? [Number(c.slice(lane.length + 1))] : [])));
/** The nearest frame with a keyframe in any lane before (−1) or after (+1) a frame. */
export function nextKeyframe(lanes: readonly Lane[], frame: number, way: 1 | -1): number | undefined {
  const frames = lanes.flatMap((l) => l.keys.map((k) => k.frame)).filter((f) => (f - frame) * way > 0);
  if (frames.length === 0) return undefined;
  return way > 0 ? Math.min(...frames) : Math.max(...frames);
}

export interface LaneRow {
  lane: Lane;
  /** Set on the first lane of several that belong together: what they are of. */
  group?: string;
  /** The row stands for all lanes of its group: their keyframes are shown, and gone to, but not changed. */
  isFolded?: boolean;
}
/** What a lane is of: the part of its label before the colon. */
const ownerOf = ({ label }: Lane): string => label.split(': ')[0]!;

/** Lanes as rows: those of one owner follow one another; folded they are one row with the keyframes of all. */
export function laneRows(lanes: readonly Lane[], folded: readonly string[]): LaneRow[] {
  const owners = [...new Set(lanes.map(ownerOf))];
  return owners.flatMap((group): LaneRow[] => {
    const own = lanes.filter((lane) => ownerOf(lane) === group);
    if (own.length === 1) return [{ lane: own[0]! }];
    if (!folded.includes(group))
      return own.map((lane, i): LaneRow => (i === 0 ? { lane, group, isFolded: false } : { lane }));
    return [{ lane: foldedLane(group, own), group, isFolded: true }];
  });
}
function foldedLane(group: string, lanes: readonly Lane[]): Lane {
  const frames = [...new Set(lanes.flatMap((l) => l.keys.map((k) => k.frame)))].sort((a, b) => a - b);
  return {
    id: `folded ${group}`,
    label: `${group}: ${lanes.length} lanes`,
    keys: frames.map((frame) => ({ frame, value: undefined, ease: 'linear' })),
    put: () => undefined,
  };
}
