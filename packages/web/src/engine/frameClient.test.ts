// Which frame is shown, and when, however late the workers answer.
import { describe, expect, it } from 'vitest';
import { FrameClient } from './frameClient.ts';
import type { AnswerOf, ShowTask, Task } from './frameProtocol.ts';
import type { Hand } from './waitingTasks.ts';

/** Of a decoded picture: a tenth of what is prefetched. */
const PICTURE_BYTES = 7.6 * 2 ** 20;

/** A hand that answers when it is told to. */
class SlowHand implements Hand {
  readonly asked: { task: Task; answer: (error?: Error) => void }[] = [];
  /** Frames it has been told to load, and pictures to decode. */
  readonly loaded: string[] = [];
  readonly prefetched: string[] = [];
  load = 0;
  ask<T extends Task>(task: T): Promise<AnswerOf[T['kind']]> {
    if (task.kind === 'load') {
      this.loaded.push(task.frame.url);
      return Promise.reject(new Error('not yet'));
    }
    if (task.kind === 'prefetch') {
      this.prefetched.push(task.url);
      return Promise.resolve({ bytes: PICTURE_BYTES } as AnswerOf[T['kind']]);
    }
    this.load++;
    return new Promise((resolve, reject) => {
      const answer = (error?: Error) => {
        this.load--;
        if (error) reject(error);
        else resolve(pictureFor(task) as unknown as AnswerOf[T['kind']]);
      };
      this.asked.push({ task, answer });
    });
  }
  get urls(): string[] {
    return this.asked.map(({ task }) => (task as ShowTask).frame.url);
  }
}
const frame = (name: string) =>
  ({ kind: 'show', frame: { url: name }, index: -1, sightings: [] }) as unknown as ShowTask;
const pictureFor = (task: Task) => ({
  picture: { rgba: new Uint8ClampedArray(4), width: 1, height: 1, of: (task as ShowTask).frame.url },
  source: undefined,
  measured: undefined,
});
/** What is shown, by the frame's name, in order. */
function screen() {
  const shown: string[] = [];
  const done = (answer: AnswerOf['show'] | Error) =>
    void shown.push(answer instanceof Error ? answer.message : (answer.picture as { of?: string }).of!);
  return { shown, done };
}
const turns = () => new Promise((resolve) => setTimeout(resolve));

it('of several frames asked for while one is computed only the newest is done', async () => {
  const lead = new SlowHand();
  const client = new FrameClient(lead, [new SlowHand()]);
  const { shown, done } = screen();
  for (const name of ['1', '2', '3', '4']) client.show(frame(name), done);
  expect(lead.urls).toEqual(['1']);
  lead.asked[0]!.answer();
  await turns();
  expect(lead.urls).toEqual(['1', '4']);
  lead.asked[1]!.answer();
  await turns();
  expect(shown).toEqual(['1', '4']);
});

it('shows what it has at once, and never afterwards the frame that was overtaken', async () => {
  const lead = new SlowHand();
  const client = new FrameClient(lead, [new SlowHand()]);
  const { shown, done } = screen();
  client.show(frame('1'), done);
  lead.asked[0]!.answer();
  await turns();
  client.show(frame('2'), done);
  client.show(frame('3'), done);
  client.show(frame('1'), done);
  expect(shown).toEqual(['1', '1']);
  lead.asked[1]!.answer();
  await turns();
  expect(lead.urls).toEqual(['1', '2']);
  expect(shown).toEqual(['1', '1']);
  // it was computed all the same
  client.show(frame('2'), done);
  expect(shown).toEqual(['1', '1', '2']);
});

it('shows nothing more of what was asked for once nothing is to be shown', async () => {
  const lead = new SlowHand();
  const client = new FrameClient(lead, [new SlowHand()]);
  const { shown, done } = screen();
  client.show(frame('1'), done);
  client.show(frame('2'), done);
  client.showNothing();
  lead.asked[0]!.answer();
  await turns();
  expect([shown, lead.urls]).toEqual([[], ['1']]);
  client.show(frame('3'), done);
  lead.asked[1]!.answer();
  await turns();
  expect(shown).toEqual(['3']);
});

it('goes on after a frame that could not be computed', async () => {
  const lead = new SlowHand();
  const client = new FrameClient(lead, [new SlowHand()]);
  const { shown, done } = screen();
  client.show(frame('1'), done);
  lead.asked[0]!.answer(new Error('no such frame'));
  await turns();
  client.show(frame('2'), done);
  lead.asked[1]!.answer();
  await turns();
  expect(shown).toEqual(['no such frame', '2']);
});

it('computes ahead in order on the other hands, two each, and shows the frame that was on its way', async () => {
  const [lead, other] = [new SlowHand(), new SlowHand()];
  const client = new FrameClient(lead, [other]);
  const { shown, done } = screen();
  client.ahead(['1', '2', '3', '4'].map(frame));
  expect([other.urls, lead.urls]).toEqual([['1', '2'], ['3']]);
  client.show(frame('2'), done);
  await turns();
  expect([shown, lead.urls]).toEqual([[], ['3']]);
  other.asked[1]!.answer();
  await turns();
  expect(shown).toEqual(['2']);
  expect([client.isReady(frame('2')), client.isReady(frame('1'))]).toEqual([true, false]);
  expect(other.urls).toEqual(['1', '2', '4']);
});

it('has the lead load what it computes next, and leaves that to it unless a hand moves something', async () => {
  const [lead, other] = [new SlowHand(), new SlowHand()];
  const client = new FrameClient(lead, [other]);
  client.ahead(['1', '2', '3', '4', '5'].map(frame));
  expect([other.urls, lead.urls, lead.loaded]).toEqual([['1', '2'], ['3'], ['4']]);
  other.asked[0]!.answer();
  await turns();
  expect(other.urls).toEqual(['1', '2', '5']);
  // one more in the list, and the one that is loaded is still wanted
  client.ahead(['4', '5', '6', '7', '8'].map(frame));
  lead.asked[0]!.answer();
  await turns();
  expect([lead.urls, lead.loaded]).toEqual([
    ['3', '4'],
    ['4', '6'],
  ]);
  client.show(frame('elsewhere'), () => undefined);
  other.asked[1]!.answer();
  await turns();
  expect(other.urls).toEqual(['1', '2', '5', '6']);
  // the list changes: what was to come next is not computed
  client.ahead([]);
  lead.asked[1]!.answer();
  lead.asked[2]!.answer();
  await turns();
  expect(lead.urls).toEqual(['3', '4', 'elsewhere']);
});

it('gives frames that need those around them in runs, so that each is loaded by one hand', async () => {
  const [lead, other] = [new SlowHand(), new SlowHand()];
  const client = new FrameClient(lead, [other]);
  const steadied = (n: number) => ({
    ...frame(String(n)),
    around: [-1, 1].map((off) => ({ off, frame: { url: String(n + off) }, sightings: [] })),
  });
  client.ahead(Array.from({ length: 16 }, (_, k) => steadied(k + 1)) as unknown as ShowTask[]);
  expect([other.urls, lead.urls, lead.loaded]).toEqual([['1', '2'], ['11'], ['12']]);
  other.asked[0]!.answer();
  other.asked[1]!.answer();
  lead.asked[0]!.answer();
  await turns();
  expect([other.urls, lead.urls, lead.loaded]).toEqual([
    ['1', '2', '3', '4'],
    ['11', '12'],
    ['12', '13'],
  ]);
});

it('a new list takes the place of what still waits; nobody waits for a frame that failed', async () => {
  const [lead, other] = [new SlowHand(), new SlowHand()];
  const client = new FrameClient(lead, [other]);
  client.ahead(['1', '2', '3', '4'].map(frame));
  client.ahead(['8'].map(frame));
  other.asked[0]!.answer(new Error('lost'));
  await turns();
  expect([...other.urls, ...lead.urls]).toEqual(['1', '2', '8', '3']);
  expect(client.isReady(frame('1'))).toBe(true);
});

it('gives other work to the hand with the least to do, two at a time, and drops what nobody waits for', async () => {
  const [busy, idle] = [new SlowHand(), new SlowHand()];
  busy.load = 3;
  const client = new FrameClient(new SlowHand(), [busy, idle]);
  const gone = new AbortController();
  const asked = ['1', '2', '3', '4'].map((name) => client.ask(frame(name), name === '3' ? gone.signal : undefined));
  expect([busy.urls, idle.urls]).toEqual([[], ['1', '2']]);
  gone.abort(new Error('overtaken'));
  await expect(asked[2]).rejects.toThrow('overtaken');
  idle.asked[1]!.answer(new Error('lost'));
  await expect(asked[1]).rejects.toThrow('lost');
  await turns();
  expect(idle.urls).toEqual(['1', '2', '4']);
  idle.asked[0]!.answer();
  expect(await asked[0]).toMatchObject({ picture: { of: '1' } });
});

it('lets the picture go before figures on the frame in hand, and drops those of frames gone by', async () => {
  const lead = new SlowHand();
  const client = new FrameClient(lead, [new SlowHand()]);
  const { shown, done } = screen();
  const first = client.askBesides(frame('figure 1'));
  const frames = ['1', '2', '3'].map((name) => {
    client.show(frame(name), done);
    const gone = new AbortController();
    const figure = client.askBesides(frame(`figure ${name}`), gone.signal);
    figure.catch(() => undefined);
    return { gone, figure };
  });
  // one figure was under way: the picture waits for no other
  expect(lead.urls).toEqual(['figure 1', '1']);
  frames.slice(0, 2).forEach(({ gone }) => gone.abort());
  lead.asked[0]!.answer();
  await first;
  await turns();
  expect(lead.urls).toEqual(['figure 1', '1']);
  lead.asked[1]!.answer();
  await turns();
  expect(lead.urls).toEqual(['figure 1', '1', '3']);
  lead.asked[2]!.answer();
  await turns();
  expect([shown, lead.urls.slice(3)]).toEqual([['1', '3'], ['figure 3']]);
  lead.asked[3]!.answer();
  expect(await frames[2]!.figure).toMatchObject({ picture: { of: 'figure 3' } });
  await expect(frames[0]!.figure).rejects.toThrow('aborted');
});

describe('what is likely to be looked at next', () => {
  const names = (count: number) => Array.from({ length: count }, (_, k) => String(k + 1));

  it('is computed at rest, one frame a hand, while the pictures of those behind are decoded', async () => {
    const [lead, other] = [new SlowHand(), new SlowHand()];
    const client = new FrameClient(lead, [other]);
    const { shown, done } = screen();
    client.prepare(names(3).map(frame), ['a', 'b']);
    expect([other.urls, lead.urls]).toEqual([['1'], ['2']]);
    await turns();
    expect([other.prefetched, lead.prefetched]).toEqual([['a', 'b'], []]);
    other.asked[0]!.answer();
    await turns();
    expect([other.urls, lead.urls]).toEqual([['1', '3'], ['2']]);
    // it is there when it plays
    client.show(frame('1'), done);
    expect([shown, client.isReady(frame('1')), lead.urls]).toEqual([['1'], true, ['2']]);
  });
  it('takes the lead through its first frames only: after that it is free for what a hand moves', async () => {
    const [lead, other] = [new SlowHand(), new SlowHand()];
    const client = new FrameClient(lead, [other]);
    client.prepare(names(30).map(frame), []);
    for (let k = 0; k < 30; k++) {
      lead.asked[k]?.answer();
      other.asked[k]?.answer();
      await turns();
    }
    expect([lead.urls.length, other.urls.length]).toEqual([6, 24]);
  });
  it('waits for the picture in hand, and for work that somebody asked for', async () => {
    const [lead, other] = [new SlowHand(), new SlowHand()];
    const client = new FrameClient(lead, [other]);
    client.show(frame('in hand'), () => undefined);
    client.prepare(names(2).map(frame), ['a']);
    expect([other.urls, other.prefetched]).toEqual([[], []]);
    void client.ask(frame('thumbnail'));
    lead.asked[0]!.answer();
    await turns();
    expect([other.urls, lead.urls]).toEqual([['thumbnail'], ['in hand', '1']]);
    lead.asked[1]!.answer(new Error('lost'));
    other.asked[0]!.answer();
    await turns();
    expect([...other.urls, ...lead.urls].filter((url) => url === '2')).toHaveLength(1);
  });
  it('is no more than the workers keep, and no longer what the hand rested on before', async () => {
    const other = new SlowHand();
    const client = new FrameClient(new SlowHand(), [other]);
    client.prepare([], names(40));
    client.prepare([], ['a', ...names(40)]);
    for (let k = 0; k < 50; k++) await turns();
    expect(other.prefetched).toEqual(['1', 'a', ...names(8)]);
  });
  it('is not computed twice: neither what is there nor what is on its way', async () => {
    const [lead, other] = [new SlowHand(), new SlowHand()];
    const client = new FrameClient(lead, [other]);
    client.prepare(names(2).map(frame), []);
    client.prepare(names(3).map(frame), []);
    lead.asked[0]!.answer();
    other.asked[0]!.answer();
    await turns();
    client.prepare(names(3).map(frame), []);
    expect([...other.urls, ...lead.urls].sort()).toEqual(['1', '2', '3']);
  });
});
