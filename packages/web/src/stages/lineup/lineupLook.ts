// How the line-up is looked at: what its pictures show, and how large they are.
export const SHOWN = ['after', 'divided', 'before', 'colourways'] as const;
export type Shown = (typeof SHOWN)[number];
export const SHOWN_TEXT: Record<Shown, string> = {
  after: 'After',
  divided: 'Divided',
  before: 'Before',
  colourways: 'All colourways',
};

/** Width of a column and height of its picture, pixels. */
export const SIZES = {
  small: { width: 118, crop: 66 },
  middle: { width: 168, crop: 102 },
  large: { width: 272, crop: 168 },
} as const;
/** The picture of the sighting in hand, beside the table. */
export const DETAILS_SIZE = { width: 246, crop: 160 };
export type CellSize = keyof typeof SIZES;
export const CELL_SIZES = Object.keys(SIZES) as CellSize[];
/** Swatch, required bar and two lines of figures under a picture. */
const UNDER_CROP = 78;
export const rowHeight = (size: CellSize): number => SIZES[size].crop + UNDER_CROP;
export const HEAD_WIDTH = 160;
export const HEAD_HEIGHT = 62;
