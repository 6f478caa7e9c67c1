/** Files of the demo's shots, in `media` and `truth`, by what `finished.json` calls the shots. */
export const FOOTAGE: Readonly<Record<string, string>> = {
  'shot: 1 Platform': 'shot-1-platform',
  'shot: 2 Café': 'shot-2-cafe',
  'shot: 3 Street': 'shot-3-street',
  'shot: 4 Turn': 'shot-4-turn',
  'shot: 5 Gate': 'shot-5-gate',
};
