import type { Lab } from '../colour/lab.ts';

/** A colour to be written down, under D65. */
export interface NamedColour {
  name: string;
  lab: Lab;
}

/** Names in quotes, which are doubled inside; one line each. */
const quoted = (text: string): string => `"${text.replaceAll(/\s+/g, ' ').replaceAll('"', '""')}"`;

/** Colours as CGATS.17 text (ISO 28178): Lab under D65, 2° observer. `created`: when, in ISO 8601. */
export function measurementText(originator: string, created: string, colours: readonly NamedColour[]): string {
  const rows = colours.map(({ name, lab: { L, a, b } }, k) =>
    [String(k + 1), quoted(name), ...[L, a, b].map((v) => v.toFixed(3))].join('\t'),
  );
  return [
    'CGATS.17',
    `ORIGINATOR ${quoted(originator)}`,
    `CREATED ${quoted(created)}`,
    'WEIGHTING_FUNCTION "ILLUMINANT, D65"',
    'WEIGHTING_FUNCTION "OBSERVER, 2 degree"',
    'NUMBER_OF_FIELDS 5',
    'BEGIN_DATA_FORMAT',
    'SAMPLE_ID\tSAMPLE_NAME\tLAB_L\tLAB_A\tLAB_B',
    'END_DATA_FORMAT',
    `NUMBER_OF_SETS ${rows.length}`,
    'BEGIN_DATA',
    ...rows,
    'END_DATA',
    '',
  ].join('\n');
}
