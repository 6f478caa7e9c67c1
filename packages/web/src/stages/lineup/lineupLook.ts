// How the line-up is looked at: what its pictures show, and how large they are.
export const SHOWN = ['after', 'divided', 'before', 'colourways'] as const;
export type Shown = (typeof SHOWN)[number];
export const SHOWN_TEXT: Record<Shown, string> = {
  after: 'After',
  divided: 'Divided',
  before: 'Before',
  colourways: 'All colourways',
};

/**
 * Width of a column and height of its picture, pixels. Five of the middle ones stand in a window of 1280 beside the
 * details.
 */
export const SIZES = {
  all: { width: 41, crop: 22 },
  small: { width: 118, crop: 66 },
  middle: { width: 164, crop: 100 },
  large: { width: 272, crop: 168 },
  largest: { width: 408, crop: 252 },
} as const;
/** The picture of the sighting in hand, beside the table. */
export const DETAILS_SIZE = { width: 246, crop: 160 };
export type CellSize = keyof typeof SIZES;
export const CELL_SIZES = Object.keys(SIZES) as CellSize[];
/** Swatch, required bar and two lines of figures under a picture; in the smallest, one short line. */
const UNDER_CROP = 78;
const UNDER_SMALLEST = 46;
export const isSmallest = (size: CellSize): boolean => size === 'all';
/** What there is room for under a picture: how far a figure can be trusted, in words; the figure; or hardly that. */
export const roomFor = (size: CellSize): 'words' | 'figure' | 'barest' => {
  if (isSmallest(size)) return 'barest';
  return SIZES[size].width < SIZES.large.width ? 'figure' : 'words';
};
/** A row or column in which nothing is isolated is folded to this, pixels. */
const FOLDED = { width: 64, height: 56 };
export const rowHeight = (size: CellSize, isEmpty: boolean): number => {
  const full = SIZES[size].crop + (isSmallest(size) ? UNDER_SMALLEST : UNDER_CROP);
  return isEmpty ? Math.min(FOLDED.height, full) : full;
};
export const columnWidth = (size: CellSize, isEmpty: boolean): number =>
  isEmpty ? Math.min(FOLDED.width, SIZES[size].width) : SIZES[size].width;
export const HEAD_WIDTH = 178;
export const HEAD_HEIGHT = 62;
/** Width of the details beside the table, with what parts them from it. */
const BESIDE = 270;

/** The size to begin with: the largest in which all shots stand side by side, and at least the middle one. */
export function sizeThatFits(windowWidth: number, shots: number): CellSize {
  const wanted: CellSize[] = ['largest', 'large'];
  return wanted.find((s) => HEAD_WIDTH + shots * SIZES[s].width + BESIDE <= windowWidth) ?? 'middle';
}
