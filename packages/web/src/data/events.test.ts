import { expect, it, vi } from 'vitest';
import { hearEvents, parsedEvent, type EventHandlers } from './events.ts';

const id = '00000000-0000-4000-8000-000000000001';
/** A stream of events without a server. */
class Stream extends EventTarget {
  onopen: (() => void) | null = null;
  isClosed = false;
  close = () => void (this.isClosed = true);
  tell = (name: string, data: unknown) =>
    this.dispatchEvent(new MessageEvent(name, { data: typeof data === 'string' ? data : JSON.stringify(data) }));
}
const handlers = () =>
  ({
    change: vi.fn(),
    job: vi.fn(),
    measuring: vi.fn(),
    measured: vi.fn(),
    tracking: vi.fn(),
    carrying: vi.fn(),
    missed: vi.fn(),
    present: vi.fn(),
    reviewed: vi.fn(),
  }) satisfies EventHandlers;

it('hands each event, parsed, to its handler', () => {
  const [stream, heard] = [new Stream(), handlers()];
  hearEvents(
    id,
    heard,
    () => undefined,
    () => stream as never,
  );
  stream.tell('change', { seq: 7 });
  stream.tell('measured', { sightingId: id });
  stream.tell('tracking', { runId: id, frames: [], stopped: { frame: 3, reason: 'covered' } });
  expect(heard.change.mock.calls).toEqual([[{ seq: 7 }]]);
  expect(heard.measured).toHaveBeenCalledWith({ sightingId: id });
  expect(heard.tracking.mock.calls[0]![0]).toMatchObject({ stopped: { reason: 'covered' } });
});
it('passes over what is not as agreed', () => {
  const [stream, heard] = [new Stream(), handlers()];
  hearEvents(
    id,
    heard,
    () => undefined,
    () => stream as never,
  );
  for (const text of ['', 'not json', '{}', '{"seq":"seven"}', 'null']) stream.tell('change', text);
  expect(heard.change).not.toHaveBeenCalled();
  expect(parsedEvent('missed', '{}')).toEqual({});
});
it('says when the connection stands again, not when it first stands, and closes it when asked', () => {
  const [stream, again] = [new Stream(), vi.fn()];
  const stop = hearEvents(id, handlers(), again, () => stream as never);
  stream.onopen!();
  expect(again).not.toHaveBeenCalled();
  stream.onopen!();
  expect(again).toHaveBeenCalledTimes(1);
  stop();
  expect(stream.isClosed).toBe(true);
});
