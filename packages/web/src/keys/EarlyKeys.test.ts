import { expect, it } from 'vitest';
import { EarlyKeys } from './EarlyKeys.ts';

/** As far as a browser's is copied. */
class Press extends Event {
  readonly key: string;
  constructor(type: string, { key }: { key: string }) {
    super(type, { cancelable: true });
    this.key = key;
  }
}
const hears = (target: EventTarget) => {
  const heard: string[] = [];
  for (const type of ['keydown', 'keyup'])
    target.addEventListener(type, (e) => heard.push(`${type} ${(e as Event & { key: string }).key}`));
  return heard;
};
const press = (target: EventTarget, key: string, type = 'keydown') => target.dispatchEvent(new Press(type, { key }));

it('presses again in its order what was pressed too early, one when the other is done', async () => {
  const target = new EventTarget();
  const early = new EarlyKeys(target);
  press(target, '2');
  press(target, '2', 'keyup');
  press(target, 'ArrowRight');
  const heard = hears(target);
  await early.press(async () => void heard.push('done'));
  expect(heard).toEqual(['keydown 2', 'done', 'keyup 2', 'done', 'keydown ArrowRight', 'done']);
  press(target, '3');
  await early.press(async () => void heard.push('again'));
  expect(heard.at(-1)).toBe('keydown 3');
});
it('leaves alone what something has taken, the way from stop to stop, and what is to be forgotten', async () => {
  const target = new EventTarget();
  target.addEventListener('keydown', (e) => (e as Event & { key: string }).key === 'Enter' && e.preventDefault());
  const early = new EarlyKeys(target);
  for (const key of ['Enter', 'Tab']) press(target, key);
  const heard = hears(target);
  await early.press(async () => undefined);
  expect(heard).toEqual([]);
  const gone = new EarlyKeys(target);
  press(target, '1');
  gone.forget();
  await gone.press(async () => void heard.push('done'));
  expect(heard).toEqual(['keydown 1']);
});
