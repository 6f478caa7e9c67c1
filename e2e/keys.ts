/** Numbers of the key that selects the suitcase behind the chair, as more than one journey sets them. */
export const CAFE_TEAL: [string, string][] = [
  ['hue, from', '156'],
  ['hue, to', '200'],
  ['hue, lower softness', '83'],
  ['hue, upper softness', '83'],
  ['chroma, from', '0.037'],
  ['chroma, to', '0.4'],
  ['chroma, lower softness', '0.03'],
  ['lightness, from', '0.1'],
  ['lightness, to', '0.9'],
  ['lightness, lower softness', '0.05'],
];
