import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { hearEvents, parsedEvent, type EventHandlers } from './events.ts';

const id = '00000000-0000-4000-8000-000000000001';
/** A stream of events without a server. */
class Stream extends EventTarget {
  onopen: (() => void) | null = null;
  onerror: (() => void) | null = null;
  readyState = 0;
  isClosed = false;
  close = () => void (this.isClosed = true);
  tell = (name: string, data: unknown) =>
    this.dispatchEvent(new MessageEvent(name, { data: typeof data === 'string' ? data : JSON.stringify(data) }));
}
beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());
const hearing = () => ({ stands: vi.fn(), fails: vi.fn() });
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
  hearEvents(id, heard, hearing(), () => stream as never);
  stream.tell('change', { seq: 7 });
  stream.tell('measured', { sightingId: id });
  stream.tell('tracking', { runId: id, frames: [], stopped: { frame: 3, reason: 'covered' } });
  expect(heard.change.mock.calls).toEqual([[{ seq: 7 }]]);
  expect(heard.measured).toHaveBeenCalledWith({ sightingId: id });
  expect(heard.tracking.mock.calls[0]![0]).toMatchObject({ stopped: { reason: 'covered' } });
});
it('passes over what is not as agreed', () => {
  const [stream, heard] = [new Stream(), handlers()];
  hearEvents(id, heard, hearing(), () => stream as never);
  for (const text of ['', 'not json', '{}', '{"seq":"seven"}', 'null']) stream.tell('change', text);
  expect(heard.change).not.toHaveBeenCalled();
  expect(parsedEvent('missed', '{}')).toEqual({});
});
it('says whenever the connection stands, and closes it when asked', () => {
  const [stream, told] = [new Stream(), hearing()];
  const stop = hearEvents(id, handlers(), told, () => stream as never);
  expect(told.stands).not.toHaveBeenCalled();
  stream.onopen!();
  stream.onopen!();
  expect(told.stands).toHaveBeenCalledTimes(2);
  stop();
  expect(stream.isClosed).toBe(true);
  vi.runAllTimers();
  expect(told.fails).not.toHaveBeenCalled();
});
it('says so where the server says nothing for a while', () => {
  const [stream, told] = [new Stream(), hearing()];
  hearEvents(id, handlers(), told, () => stream as never);
  vi.runAllTimers();
  expect(told.fails).toHaveBeenCalledTimes(1);
  stream.onopen!();
  expect(told.stands).toHaveBeenCalledTimes(1);
});
it('makes the connection anew where the server refused it, and leaves it to the browser where it was lost', () => {
  const [streams, told, heard] = [[] as Stream[], hearing(), handlers()];
  const open = () => streams[streams.push(new Stream()) - 1];
  const stop = hearEvents(id, heard, told, open as never);
  streams[0]!.onerror!();
  vi.runAllTimers();
  expect([streams.length, told.fails.mock.calls.length]).toEqual([1, 1]);
  streams[0]!.readyState = 2;
  streams[0]!.onerror!();
  vi.runAllTimers();
  expect(streams).toHaveLength(2);
  streams[1]!.onopen!();
  streams[1]!.tell('change', { seq: 8 });
  expect([told.stands.mock.calls.length, heard.change.mock.calls.length]).toEqual([1, 1]);
  streams[1]!.readyState = 2;
  streams[1]!.onerror!();
  stop();
  vi.runAllTimers();
  expect(streams).toHaveLength(2);
});
