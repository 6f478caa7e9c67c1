import { describe, expect, it } from 'vitest';
import type { ProjectDocument, Shot } from '@mellow/contract';
import { readCutList } from '@mellow/core';
import { conform } from './conform.ts';
import { documentWith, stored } from './testing.ts';

const media = (id: string, name: string, timecode: string | null, frames = 48) => ({
  id,
  name,
  timecode,
  frames,
  fps: { num: 24, den: 1 },
  fields: 'progressive',
  isDeinterlaced: false,
  stated: null,
  proposedEncoding: 'rec709',
});
const shot = (id: string, mediaId: string, position: number, more: Partial<Shot> = {}) =>
  ({ id, mediaId, name: id, position, span: null, balance: null, light: null, encoding: 'srgb', ...more }) as Shot;
function project(shots: Shot[], ...footage: ReturnType<typeof media>[]): ProjectDocument {
  return { ...documentWith(undefined), shots: stored(...shots), media: footage } as unknown as ProjectDocument;
}
let made = 0;
const newId = () => `new ${made++}`;
const list = (...events: string[]) => readCutList(`TITLE: Cut 3\n${events.join('\n')}`);
const event = (n: string, reel: string, from: string, to: string, kind = 'C', channels = 'V') =>
  `${n} ${reel} ${channels} ${kind} ${from} ${to} 01:00:00:00 01:00:01:00`;
const shotsOf = ({ change }: ReturnType<typeof conform>) => change.edits.flatMap((e) => (e.value as Shot | null) ?? []);

describe('a cut list over footage', () => {
  const reel = media('m', 'Reel_A.mov', '02:00:00:00', 240);
  it('makes a shot of each cut, several of one footage, in the order of the list', () => {
    const document = project([shot('whole', 'm', 3)], reel);
    const edl = list(
      event('001', 'reel_a', '02:00:04:00', '02:00:05:00'),
      event('002', 'REEL_A', '02:00:00:12', '02:00:02:00'),
    );
    const result = conform(document, edl, newId);
    expect(shotsOf(result).map((s) => [s.name, s.mediaId, s.span, s.position, s.encoding])).toEqual([
      ['001 reel_a', 'm', { from: 96, to: 119 }, 4, 'srgb'],
      ['002 REEL_A', 'm', { from: 12, to: 47 }, 5, 'srgb'],
    ]);
    // nothing was done in the whole yet: it makes room
    expect(result.change.edits[0]).toEqual({ kind: 'shot', id: 'whole', value: null });
    expect([result.made, result.left, result.change.label]).toEqual([2, [], 'Cut list Cut 3']);
  });
  it('leaves a shot in which something was done, and those that show a part', () => {
    const balanced = shot('whole', 'm', 0, { balance: {} as never });
    const part = shot('part', 'm', 1, { span: { from: 0, to: 9 } });
    const result = conform(
      project([balanced, part], reel),
      list(event('001', 'Reel_A', '02:00:00:00', '02:00:01:00')),
      newId,
    );
    expect(result.change.edits.map((e) => e.value === null)).toEqual([false]);
  });
  it('finds footage by its timecode where no name helps, unless there are two', () => {
    const edl = list(event('001', 'TAPE7', '02:00:00:00', '02:00:01:00'));
    expect(shotsOf(conform(project([], reel, media('n', 'b.mov', null)), edl, newId))[0]!.mediaId).toBe('m');
    const two = conform(project([], reel, media('n', 'b.mov', '02:00:00:00')), edl, newId);
    expect(two.left).toEqual(['Event 001, line 2: TAPE7 could be any of 2 files.']);
  });
  it('says of every event that it leaves out why, by number and line, and takes no sound', () => {
    const edl = list(
      event('001', 'BL', '00:00:00:00', '00:00:01:00'),
      event('002', 'Reel_A', '02:00:00:00', '02:00:01:00', 'D 012'),
      event('003', 'Reel_A', '02:00:00:00', '02:00:01:00'),
      'M2 Reel_A 048.0 02:00:00:00',
      event('004', 'Reel_A', '02:00:09:00', '02:00:11:00'),
      event('005', 'Gone', '09:00:00:00', '09:00:01:00'),
      event('006', 'Reel_A', '02:00:00:00', '02:00:01:00', 'C', 'A2'),
    );
    const { left, made: none } = conform(project([], reel), edl, newId);
    expect(none).toBe(0);
    expect(left).toEqual([
      'Event 001, line 2: it is black.',
      'Event 002, line 3: it is no cut; put it in as a cut, and the transition afterwards.',
      'Event 003, line 4: it is retimed to 48 frames a second.',
      'Event 004, line 6: Reel_A does not hold 02:00:09:00 to 02:00:11:00.',
      'Event 005, line 7: there is no footage of Gone.',
    ]);
  });
  it('takes clips by their frames: from where the list says footage begins, its timecode, or 0', () => {
    const clip = (name: string, from: number, frames: number, rate = 24, first?: number) => ({
      OTIO_SCHEMA: 'Clip.1',
      name,
      media_reference: first === undefined ? null : reference(first),
      source_range: range(from, frames, rate),
    });
    const time = (value: number, rate: number) => ({ OTIO_SCHEMA: 'RationalTime.1', value, rate });
    const range = (from: number, frames: number, rate: number) => ({
      OTIO_SCHEMA: 'TimeRange.1',
      start_time: time(from, rate),
      duration: time(frames, rate),
    });
    const reference = (first: number) => ({
      OTIO_SCHEMA: 'ExternalReference.1',
      target_url: 'Reel_A.mov',
      available_range: range(first, 240, 24),
    });
    const timeline = (...children: object[]) =>
      readCutList(
        JSON.stringify({
          OTIO_SCHEMA: 'Timeline.1',
          name: 'Cut 3',
          tracks: {
            OTIO_SCHEMA: 'Stack.1',
            children: [{ OTIO_SCHEMA: 'Track.1', kind: 'Video', name: 'V1', children }],
          },
        }),
      );
    const start = 2 * 3600 * 24;
    const result = conform(
      project([], reel),
      timeline(
        clip('Reel_A', 1010, 5, 24, 1000),
        clip('Reel_A', start + 20, 5),
        clip('Reel_A', 30, 5),
        clip('Reel_A', 30, 5, 25),
        clip('Reel_A', 1300, 5, 24, 1000),
      ),
      newId,
    );
    expect(shotsOf(result).map((s) => s.span)).toEqual([
      { from: 10, to: 14 },
      { from: 20, to: 24 },
      { from: 30, to: 34 },
    ]);
    expect(result.left).toEqual([
      'Track V1, item 4: Reel_A does not hold frames 30 to 34 at 25 frames a second.',
      'Track V1, item 5: Reel_A.mov does not hold frames 1300 to 1304 at 24 frames a second.',
    ]);
  });
  it('finds numbered images by the name before their numbers', () => {
    const images = media('s', 'plate.[0001-0048].png', null);
    const { left, change } = conform(
      project([], images),
      list(event('001', 'PLATE', '00:00:00:00', '00:00:01:00')),
      newId,
    );
    expect([left, change.edits.length]).toEqual([[], 1]);
  });
});
