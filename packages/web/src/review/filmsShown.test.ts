import { expect, it } from 'vitest';
import type { ReviewFile } from '@mellow/contract';
import { filmsShown, rendered, type Mode } from './filmsShown.ts';

const file = (shotId: string, colourwayId: string | null, more: Partial<ReviewFile> = {}) =>
  ({
    deliveryId: `${shotId}-${colourwayId}`,
    shotId,
    colourwayId,
    state: 'done',
    done: 0,
    total: 10,
    ...more,
  }) as never;
const page = {
  colourways: [
    { id: 'c1', name: 'Marigold' },
    { id: 'c2', name: 'Plum' },
  ] as never,
  files: [
    file('s1', 'c1'),
    file('s1', 'c2', { state: 'running', done: 4 }),
    file('s1', null),
    file('s2', 'c1'),
    file('s2', null),
  ],
  approved: [file('s1', 'c1', { deliveryId: 'old', reviewName: 'First cut' } as object)],
};
const labels = (shotId: string, mode: Mode, colourwayId = 'c1') =>
  filmsShown(page, 't', { shotId, colourwayId, mode }).map((f) => f.label);

it('a wipe is of one colourway and of what was filmed, of that shot alone', () => {
  expect(labels('s1', 'wipe', 'c2')).toEqual(['Plum', 'as filmed']);
  expect(labels('s2', 'wipe')).toEqual(['Marigold', 'as filmed']);
});
it('side by side is what was filmed and every colourway there is a film of', () => {
  expect(labels('s1', 'side by side')).toEqual(['as filmed', 'Marigold', 'Plum']);
  expect(labels('s2', 'side by side')).toEqual(['as filmed', 'Marigold']);
});
it('what was approved lies over what it is now, of that colourway and shot alone', () => {
  expect(labels('s1', 'approved')).toEqual(['Marigold', 'approved: First cut']);
  expect(labels('s1', 'approved', 'c2')).toEqual(['Plum', 'as filmed']);
  expect(labels('s2', 'approved')).toEqual(['Marigold', 'as filmed']);
  const [, before] = filmsShown(page, 't', { shotId: 's1', colourwayId: 'c1', mode: 'approved' });
  expect(before!.address).toBe('/api/reviews/t/files/old');
});
it('a film has an address when it is rendered', () => {
  const shown = filmsShown(page, 't/1', { shotId: 's1', colourwayId: 'c1', mode: 'side by side' });
  expect(shown.map((f) => f.address)).toEqual([
    '/api/reviews/t%2F1/files/s1-null',
    '/api/reviews/t%2F1/files/s1-c1',
    null,
  ]);
});
it('tells how far the films are, without those that will not come', () => {
  expect(rendered(page.files)).toEqual({ done: 44, total: 50, isUnderWay: true });
  expect(rendered([file('s1', null), file('s1', 'c1', { state: 'failed', done: 3 })])).toEqual({
    done: 10,
    total: 10,
    isUnderWay: false,
  });
});
