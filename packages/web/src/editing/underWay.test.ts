import { expect, it } from 'vitest';
import { UnderWay } from './underWay.ts';

/** Edits of a name, made with what was known; whether any still waited whenever that changed; what went wrong. */
function edits() {
  const [made, told, problems]: [string[], boolean[], unknown[]] = [[], [], []];
  const underWay: UnderWay = new UnderWay(
    () => told.push(underWay.isWaiting),
    (problem) => problems.push(problem),
  );
  const begin = (name: string, known: Promise<string>) =>
    underWay.make(known, (what = 'nothing') => {
      if (name === '') throw new Error('a stroke of no name');
      made.push(`${name} with ${what}`);
    });
  return { made, told, problems, underWay, begin };
}
/** Something that is known once `is` says so. */
function later() {
  let is!: (known: string) => void;
  return { known: new Promise<string>((resolve) => (is = resolve)), is: (known: string) => is(known) };
}

it('an edit is made once what belongs to it is known, and waits until then', async () => {
  const { made, told, underWay, begin } = edits();
  const colours = later();
  begin('a stroke', colours.known);
  expect([made, told]).toEqual([[], [true]]);
  colours.is('its colours');
  await underWay.made();
  expect([made, told]).toEqual([['a stroke with its colours'], [true, false]]);
});
it('is made without where that cannot be had', async () => {
  const { made, underWay, begin } = edits();
  begin('a stroke', Promise.reject(new Error('the worker ended')));
  await underWay.made();
  expect(made).toEqual(['a stroke with nothing']);
});
it('all are made at once, in their order and once each, when the page is left', async () => {
  const { made, told, underWay, begin } = edits();
  const late = later();
  begin('first', late.known);
  begin('second', Promise.resolve('its colours'));
  underWay.makeAll();
  expect(made).toEqual(['first with nothing', 'second with nothing']);
  late.is('its colours');
  await late.known;
  expect([made.length, told.at(-1)]).toEqual([2, false]);
});
it('what begins to wait while others are awaited is not awaited with them', async () => {
  const { made, underWay, begin } = edits();
  begin('first', Promise.resolve('its colours'));
  const before = underWay.made();
  begin('second', new Promise(() => undefined));
  await before;
  expect(made).toEqual(['first with its colours']);
});
it('tells of one that cannot be made, and makes the others', async () => {
  const { made, problems, underWay, begin } = edits();
  begin('', Promise.resolve('its colours'));
  begin('second', Promise.resolve('its colours'));
  await underWay.made();
  expect([made, String(problems[0]), underWay.isWaiting]).toEqual([
    ['second with its colours'],
    'Error: a stroke of no name',
    false,
  ]);
});
