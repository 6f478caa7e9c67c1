import { expect, it } from 'vitest';
import { CELL_SIZES, columnWidth, HEAD_HEIGHT, HEAD_WIDTH, roomFor, rowHeight, sizeThatFits } from './lineupLook.ts';

it('shows 20 shots of 8 pieces at once on a usual screen, beside the sighting in hand', () => {
  // 1280 × 800 without head, ribbon and bar, and without the 270 px beside the table
  const [width, height] = [1280 - 270, 800 - 48 - 98 - 38];
  expect(HEAD_WIDTH + 20 * columnWidth('all', false)).toBeLessThanOrEqual(width);
  expect(HEAD_HEIGHT + 8 * rowHeight('all', false)).toBeLessThanOrEqual(height);
});
it('folds what is empty to less than it would be, and never to more', () => {
  for (const size of CELL_SIZES) {
    expect(columnWidth(size, true)).toBeLessThanOrEqual(columnWidth(size, false));
    expect(rowHeight(size, true)).toBeLessThan(rowHeight(size, false));
  }
});
it('says in words how far a figure can be trusted where they fit, and the figure itself always', () => {
  expect(CELL_SIZES.map(roomFor)).toEqual(['barest', 'figure', 'figure', 'words', 'words']);
});
it.each([
  [1280, 5, 'middle'],
  [1920, 5, 'large'],
  [2560, 5, 'largest'],
  [2560, 20, 'middle'],
  [1024, 1, 'largest'],
] as const)('at %d px, %d shots begin at the size that leaves no half empty: %s', (width, shots, size) => {
  expect(sizeThatFits(width, shots)).toBe(size);
});
