/**
 * How well a command meets what is typed, 0..1; 0: not at all. Every typed word must be a part of what is said of the
 * command; its name from the beginning counts most, then the beginning of a word of it.
 */
export function paletteMatch(name: string, typed: string, more: readonly string[] = []): number {
  const [said, words] = [name.toLowerCase(), typed.toLowerCase().split(/\s+/).filter(Boolean)];
  const all = [said, ...more.map((m) => m.toLowerCase())].join(' ');
  if (!words.every((word) => all.includes(word))) return 0;
  if (said.startsWith(words.join(' '))) return 1;
  const inName = words.filter((word) => said.includes(word)).length;
  const atStart = words.filter((word) => said.split(/[\s:,-]+/).some((w) => w.startsWith(word))).length;
  return 0.1 + (0.4 * (inName + atStart)) / Math.max(2 * words.length, 1);
}
