// Cut lists as text, after the CMX 3600 edit decision list (its layout from memory: common practice of the trade).

import { CutListError } from './cutEvent.ts';

/** One event: a stretch of footage at a place of the reel. Timecodes as they stand; ends are not included. */
export interface EdlEvent {
  line: number;
  number: string;
  /** Name of the tape or file; `BL` is black. */
  reel: string;
  /** `V`, `A`, `B` for both, and the like. */
  channels: string;
  /** `C` a cut, `D` a dissolve, `W…` a wipe, `K…` a key. */
  transition: string;
  source: { in: string; out: string };
  record: { in: string; out: string };
  clipName?: string;
  /** Frames a second at which the footage is run, where it is not at its own rate. */
  speed?: number;
}
export interface Edl {
  title: string;
  events: EdlEvent[];
}
/** A cut list that cannot be read, and where it is wrong. */
const wrongAt = (line: number, what: string): CutListError => new CutListError(`Line ${line}: ${what}`);

const TIMECODE = /^\d{2}:\d{2}:\d{2}[:;.]\d{2}$/;
const MOST_EVENTS = 10_000;

function eventOf(words: readonly string[], line: number): EdlEvent {
  // a transition other than a cut has its length between its kind and the timecodes
  const times = words.slice(-4);
  const [number, reel, channels, transition] = words as [string, string, string, string];
  if (words.length < 8) throw wrongAt(line, 'an event needs a number, a reel, its channels, a kind and 4 timecodes.');
  for (const time of times) if (!TIMECODE.test(time)) throw wrongAt(line, `“${time.slice(0, 40)}” is no timecode.`);
  if (!/^(C|D|W\d*|K[BO]?)$/.test(transition)) throw wrongAt(line, `“${transition.slice(0, 40)}” is no kind of event.`);
  const [sourceIn, sourceOut, recordIn, recordOut] = times as [string, string, string, string];
  return {
    line,
    number,
    reel,
    channels,
    transition,
    source: { in: sourceIn, out: sourceOut },
    record: { in: recordIn, out: recordOut },
  };
}

/** Reads a cut list. Remarks that are not known are passed over. Throws CutListError with the line. */
export function readEdl(text: string): Edl {
  const edl: Edl = { title: '', events: [] };
  let line = 0;
  for (const raw of text.split(/\r\n|\n|\r/)) {
    line++;
    const said = raw.trim();
    const last = edl.events.at(-1);
    const clip = /^\*\s*FROM CLIP NAME:\s*(.+)$/i.exec(said);
    const motion = /^M2\s+(\S+)\s+(-?\d+(?:\.\d+)?)\s/.exec(`${said} `);
    if (/^TITLE:/i.test(said)) edl.title = said.slice(6).trim();
    else if (clip && last) last.clipName ??= clip[1]!.trim();
    else if (motion && last) last.speed = Number(motion[2]);
    else if (/^\d/.test(said)) {
      if (edl.events.length === MOST_EVENTS) throw wrongAt(line, `more than ${MOST_EVENTS} events.`);
      edl.events.push(eventOf(said.split(/\s+/), line));
    }
  }
  if (edl.events.length === 0) throw wrongAt(line, 'no event was found: it is no cut list.');
  return edl;
}
