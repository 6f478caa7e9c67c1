/** A number's dotted name in words: `cleanUp.edgePx` → clean-up edge. */
export const nameInWords = (name: string): string =>
  name
    .replace('cleanUp.', 'clean-up ')
    .replace(/^(key|feather|placement|spill|shift)\./, '$1 ')
    .replace(/(Px|Deg|Frames)$/, '')
    .replaceAll('.', ' ')
    .replace(/([a-z])([A-Z])/g, (_, a: string, b: string) => `${a} ${b.toLowerCase()}`);
