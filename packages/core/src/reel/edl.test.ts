import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CutListError } from './cutEvent.ts';
import { readEdl } from './edl.ts';

// written by hand, after lists as they are exchanged
const LIST = `TITLE: SLOW MORNING CUT 3
FCM: NON-DROP FRAME

001  PLATF001 V     C        02:00:00:05 02:00:01:00 01:00:00:00 01:00:00:19
* FROM CLIP NAME: shot-1-platform.mp4
* SOURCE FILE: PLATF001
002  CAFE0001 V     D    012 04:00:00:00 04:00:01:00 01:00:00:19 01:00:01:19
M2   CAFE0001       048.0                04:00:00:00
003  BL       V     C        00:00:00:00 00:00:00:12 01:00:01:19 01:00:02:07
004  PLATF001 A2    C        02:00:00:05 02:00:01:00 01:00:00:00 01:00:00:19
`;

describe('a cut list', () => {
  it('is read event by event, with the names and speeds that remarks give', () => {
    const { title, events } = readEdl(LIST);
    expect(title).toBe('SLOW MORNING CUT 3');
    expect(events.map((e) => [e.line, e.number, e.reel, e.channels, e.transition])).toEqual([
      [4, '001', 'PLATF001', 'V', 'C'],
      [7, '002', 'CAFE0001', 'V', 'D'],
      [9, '003', 'BL', 'V', 'C'],
      [10, '004', 'PLATF001', 'A2', 'C'],
    ]);
    expect(events[0]).toMatchObject({
      source: { in: '02:00:00:05', out: '02:00:01:00' },
      record: { in: '01:00:00:00', out: '01:00:00:19' },
      clipName: 'shot-1-platform.mp4',
    });
    expect([events[0]!.speed, events[1]!.speed]).toEqual([undefined, 48]);
    expect(events[1]!.source.in).toBe('04:00:00:00');
  });
  it.each([
    ['', 'Line 1: no event was found'],
    ['TITLE: X\n001 A V C 01:00:00:00 01:00:01:00 00:00:00:00', 'Line 2: an event needs'],
    ['001 A V C 01:00:00:00 01:00:01 00:00:00:00 00:00:01:00', 'Line 1: “01:00:01” is no timecode.'],
    ['001 A V X 01:00:00:00 01:00:01:00 00:00:00:00 00:00:01:00', 'Line 1: “X” is no kind of event.'],
  ])('%j is refused: %s', (text, said) => {
    expect(() => readEdl(text)).toThrow(CutListError);
    expect(() => readEdl(text)).toThrow(said);
  });
  it('whatever it holds is read or refused with the line, never anything else', () => {
    const word = fc.constantFrom('001', 'V', 'C', 'M2', '* FROM CLIP NAME:', 'TITLE:', '01:00:00:00', '24', 'BL');
    const line = fc.array(fc.oneof(word, fc.string({ maxLength: 12 })), { maxLength: 10 }).map((w) => w.join(' '));
    fc.assert(
      fc.property(fc.array(line, { maxLength: 10 }), (lines) => {
        try {
          expect(readEdl(lines.join('\n')).events.length).toBeGreaterThan(0);
        } catch (error) {
          expect(error).toBeInstanceOf(CutListError);
        }
      }),
      { numRuns: 1000 },
    );
  });
});
