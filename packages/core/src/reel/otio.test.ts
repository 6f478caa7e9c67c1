import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CutListError } from './cutEvent.ts';
import { readCutList } from './cutList.ts';

// Written by hand after OpenTimelineIO's "File Format Specification": schemas with their versions, times as value and
// rate.
const time = (value: number, rate = 24) => ({ OTIO_SCHEMA: 'RationalTime.1', value, rate });
const range = (from: number, frames: number, rate = 24) => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: time(from, rate),
  duration: time(frames, rate),
});
const file = (url: string, available: object | null = null) => ({
  OTIO_SCHEMA: 'ExternalReference.1',
  target_url: url,
  available_range: available,
});
const clip = (name: string, more: object = {}) => ({ OTIO_SCHEMA: 'Clip.1', name, effects: [], ...more });
const track = (children: object[], kind = 'Video', name = 'V1') => ({ OTIO_SCHEMA: 'Track.1', kind, name, children });
const timeline = (...tracks: object[]) => ({
  OTIO_SCHEMA: 'Timeline.1',
  name: 'Slow Morning cut 3',
  tracks: { OTIO_SCHEMA: 'Stack.1', children: tracks },
});
const read = (file: unknown) => readCutList(JSON.stringify(file));
const warp = (time_scalar: number) => ({ OTIO_SCHEMA: 'LinearTimeWarp.1', time_scalar });

describe('a cut list in OpenTimelineIO', () => {
  it('is read clip by clip, with the names of its footage and its frames', () => {
    const { title, events, notes } = read(
      timeline(
        track([
          clip('platform wide', {
            media_reference: file('file:///day%201/shot-1-platform.mp4?v=2', range(172_800, 48)),
            source_range: range(172_805, 19),
          }),
          { OTIO_SCHEMA: 'Gap.1', source_range: range(0, 12) },
          clip('cafe', { source_range: range(10, 25, 25) }),
          clip('gate', { media_reference: file('gate.mov') }),
        ]),
        track([clip('music')], 'Audio', 'A1'),
      ),
    );
    expect([title, notes]).toEqual(['Slow Morning cut 3', []]);
    expect(events).toEqual([
      {
        where: 'Track V1, item 1',
        name: '001 platform wide',
        footage: ['shot-1-platform.mp4', 'platform wide'],
        source: { by: 'frames', rate: 24, in: 172_805, out: 172_824, first: 172_800 },
      },
      {
        where: 'Track V1, item 3',
        name: '002 cafe',
        footage: ['cafe'],
        source: { by: 'frames', rate: 25, in: 10, out: 35 },
      },
      { where: 'Track V1, item 4', name: '003 gate', footage: ['gate.mov', 'gate'], source: { by: 'all' } },
    ]);
  });
  it('knows the active media of the second schema of clips, and numbered images', () => {
    const sequence = { OTIO_SCHEMA: 'ImageSequenceReference.1', target_url_base: 'file:///x/', name_prefix: 'plate.' };
    const of = (more: object) => read(timeline(track([clip('a', { OTIO_SCHEMA: 'Clip.2', ...more })]))).events[0]!;
    const both = { DEFAULT_MEDIA: file('low.mov'), full: sequence };
    expect(of({ media_references: both, active_media_reference_key: 'full' }).footage).toEqual(['plate', 'a']);
    expect(of({ media_references: both }).footage).toEqual(['low.mov', 'a']);
  });
  it('says of what is retimed, stands still or is generated why it is left out; what is switched off is not', () => {
    const whyNot = (effect: object, more: object = {}) =>
      read(timeline(track([clip('a', { effects: [effect], ...more })]))).events[0]!.whyNot;
    expect(whyNot(warp(0.5))).toBe('it is retimed to 50 %');
    expect(whyNot({ OTIO_SCHEMA: 'FreezeFrame.1', time_scalar: 0 })).toBe('it stands still on one frame');
    expect(whyNot(warp(1))).toBeUndefined();
    expect(whyNot({ ...warp(2), enabled: false })).toBeUndefined();
    expect(whyNot({ OTIO_SCHEMA: 'Effect.1', effect_name: 'blur' })).toBeUndefined();
    expect(whyNot({ ...warp(1) }, { media_reference: { OTIO_SCHEMA: 'GeneratorReference.1' } })).toMatch(/generated/);
  });
  it('notes what it cannot take over: transitions, and stacks within a track', () => {
    const { notes } = read(
      timeline(track([clip('a'), { OTIO_SCHEMA: 'Transition.1' }, { OTIO_SCHEMA: 'Stack.1', children: [] }])),
    );
    expect(notes).toEqual([
      'Track V1, item 2: a transition is put in as a cut.',
      'Track V1, item 3: a Stack within a track is not read.',
    ]);
  });
  it.each([
    ['{', /^The file: it is no JSON/],
    ['{"a": 1}', /^The file: it does not say its OTIO_SCHEMA/],
    [JSON.stringify({ OTIO_SCHEMA: 'SerializableCollection.1' }), /^The file: a Timeline was expected/],
    [JSON.stringify(timeline(track([], 'Audio'))), /^tracks: no clip was found/],
    [
      JSON.stringify(timeline(track([clip('a', { OTIO_SCHEMA: 'Clip.3' })]))),
      /^tracks\.children\[0\]\.children\[0\]: Clip\.3 is newer than what is read \(Clip\.2\)\./,
    ],
    [
      JSON.stringify(
        timeline(track([clip('a', { source_range: { ...range(0, 1), start_time: time('x' as never) } })])),
      ),
      /^tracks\.children\[0\]\.children\[0\]\.source_range\.start_time\.value: a number was expected/,
    ],
    [
      JSON.stringify(timeline(track([clip('a', { source_range: range(0, 1, 0) })]))),
      /children\[0\]\.source_range: its rate must be over 0/,
    ],
  ])('%s is refused with the path of what is wrong', (text, said) => {
    expect(() => readCutList(text)).toThrow(CutListError);
    expect(() => readCutList(text)).toThrow(said);
  });
  it('whatever it holds is read or refused with a sentence, never anything else', () => {
    const schema = fc.constantFrom(
      'Timeline.1',
      'Stack.1',
      'Track.1',
      'Clip.1',
      'Clip.2',
      'Gap.1',
      'X.9',
      'TimeRange.1',
    );
    const leaf = fc.oneof(fc.constant(null), fc.integer(), fc.string({ maxLength: 6 }), fc.double(), fc.boolean());
    const { node } = fc.letrec((tie) => ({
      node: fc.oneof(
        { depthSize: 'medium', withCrossShrink: true },
        leaf,
        fc.array(tie('node'), { maxLength: 3 }),
        fc.record({
          OTIO_SCHEMA: schema,
          tracks: tie('node'),
          children: tie('node'),
          effects: tie('node'),
          media_reference: tie('node'),
          media_references: tie('node'),
          source_range: tie('node'),
          start_time: tie('node'),
          duration: tie('node'),
          kind: leaf,
          name: leaf,
          value: leaf,
          rate: leaf,
        }),
      ),
    }));
    fc.assert(
      fc.property(node, node, node, (a, b, tracks) => {
        const file = {
          ...timeline(track([clip('a', { source_range: a, effects: b })])),
          tracks,
        };
        for (const any of [
          file,
          timeline(track([a as object, b as object])),
          timeline(track([clip('a', a as object)])),
        ])
          try {
            expect(read(any).events.length).toBeGreaterThan(0);
          } catch (error) {
            expect(error).toBeInstanceOf(CutListError);
          }
      }),
      { numRuns: 300 },
    );
  });
});
