/** Numbers of the key that selects the suitcase behind the chair, as more than one journey sets them. */
export const CAFE_TEAL: [string, string][] = [
  ['hue lo', '156'],
  ['hue hi', '200'],
  ['hue softLo', '83'],
  ['hue softHi', '83'],
  ['chroma lo', '0.037'],
  ['chroma hi', '0.4'],
  ['chroma softLo', '0.03'],
  ['lightness lo', '0.1'],
  ['lightness hi', '0.9'],
  ['lightness softLo', '0.05'],
];
