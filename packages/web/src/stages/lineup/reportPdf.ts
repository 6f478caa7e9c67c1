// The report as pages: for who decides, and for a colour manager who has never seen this program.
import type { Column, Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import type { Note, ProjectDocument, SightingMeasurements, StandingVerdict } from '@mellow/contract';
import { drift, hexFromLab, judge, shotColour, type Lab } from '@mellow/core';
import { verdictOf, verdictTitle } from '../../inhand/reviewed.ts';
import { afterOf, deltaEOf, GLYPH, requiredLab, toleranceOf } from '../../ui/colour.ts';
import { lightText, placesOf, type Place } from './report.ts';
import { pieceRow } from './sightings.ts';

/** A piece in a shot as filmed and recoloured, as data addresses. */
export interface SightingPictures {
  before: string;
  after: string;
}
export interface Reported {
  document: ProjectDocument;
  measurements: readonly SightingMeasurements[];
  verdicts: readonly StandingVerdict[];
  notes: readonly Note[];
  /** By `pictureKey`; those that are not there are left out. */
  pictures: ReadonlyMap<string, SightingPictures>;
  at: Date;
}
export const pictureKey = (colourwayId: string, sightingId: string): string => `${colourwayId} ${sightingId}`;

/** Points: swatches, and the most that a picture may take. */
const SWATCH = 22;
const PICTURE: [number, number] = [82, 62];
const MISSING = '–';
/** Rows that fit a page with their heading. */
const MOST_TOGETHER = 5;

const number = (v: number | undefined, digits = 2): string => (v === undefined ? MISSING : v.toFixed(digits));
const labText = (lab: Lab | undefined): string =>
  lab ? `L* ${number(lab.L, 1)}  a* ${number(lab.a, 1)}  b* ${number(lab.b, 1)}` : 'not measured';
const swatch = (lab: Lab | undefined): Column =>
  lab
    ? { canvas: [{ type: 'rect', x: 0, y: 0, w: SWATCH, h: SWATCH, color: hexFromLab(lab) }], width: SWATCH + 6 }
    : { text: '', width: SWATCH + 6 };
const percent = (values: readonly number[]): string =>
  values.length > 0 ? `${((100 * values.reduce((a, b) => a + b, 0)) / values.length).toFixed(0)} %` : MISSING;

const HOW_TO_READ = [
  'Each piece is measured on every frame of every shot where it is selected: the mean of its selected pixels, in ' +
    'linear light. L*, a* and b* are CIELAB 1976 under D65, of the light of the reference shot: what another light ' +
    'does to the piece has been taken out, so that all shots can be compared with one required colour.',
  'ΔE00 is CIEDE2000 (ISO/CIE 11664-6) between the measured and the required colour. ✓ is within the tolerance, ' +
    '≈ within twice of it, ✕ beyond. Drift is the largest ΔE00 between frames of one shot; between shots is ' +
    'the largest ' +
    'between two shots. Selected: how much of what looks like the piece is selected. Clipped: how much of it the ' +
    'recolour has cut off at the ends of the encoding.',
  'A review’s word is of what was sent. Where it says changed since, something else is there now.',
];

function sightingRow(reported: Reported, place: Place): TableCell[] {
  const { document, pictures, verdicts } = reported;
  const { colourway, row, sighted } = place;
  const { shot, sighting, measured } = sighted;
  const frames = afterOf(measured, row.requirement) ?? [];
  const lab = shotColour(frames, shot.light?.matrix);
  const deltaE = deltaEOf(frames, row.requirement, shot);
  const tolerance = toleranceOf(row.requirement, document.project.value.tolerance);
  const shown = pictures.get(pictureKey(colourway.id, sighting!.id));
  const verdict = verdictOf(verdicts, sighting!.id, colourway.id);
  const picture = (image: string | undefined): TableCell => (image ? { image, fit: PICTURE } : MISSING);
  const isTrimmed = Object.keys(sighting!.trims).includes(colourway.id);
  return [
    shot.name,
    picture(shown?.before),
    picture(shown?.after),
    { columns: [swatch(lab), { text: labText(lab).replace('  ', '\n') }] },
    deltaE === undefined ? MISSING : `${GLYPH[judge(deltaE, tolerance)]} ${number(deltaE)}`,
    frames.length > 0 ? number(drift(frames)) : MISSING,
    {
      text: [
        `${percent(measured?.frames.map((f) => f.coverage) ?? [])} selected\n`,
        `${percent(measured?.frames.map((f) => f.resultClippedShare) ?? [])} clipped`,
        measured?.fresh ? '' : '\nnot of the latest edit',
      ],
    },
    `${lightText(shot, document.project.value.referenceShotId)}${isTrimmed ? '\ntrimmed' : ''}`,
    `${sighting!.state}${verdict ? `\n${verdictTitle(verdict)}` : ''}`,
  ];
}
const HEADS = ['Shot', 'As filmed', 'Recoloured', 'Measured', 'ΔE00', 'Drift', 'Selection', 'Light', 'State'];
const WIDTHS = [62, PICTURE[0], PICTURE[0], 112, 46, 34, 72, 72, '*'];

/** One piece in one colourway: what is required of it, and how it stands in every shot. */
function pieceSection(reported: Reported, places: readonly Place[]): Content[] {
  const { document } = reported;
  const [{ row, colourway }] = places as [Place];
  const { requirement, piece, spread } = row;
  const lab = requirement && requiredLab(requirement);
  const said = requirement
    ? `Required: ${requirement.name}, ${labText(lab)}, of its ${requirement.of}, tolerance ΔE00 ${number(
        toleranceOf(requirement, document.project.value.tolerance),
      )}`
    : 'No colour is required of it.';
  const kept = document.versions.map((v) => v.value).filter((v) => v.pieceId === piece.id);
  const versions = kept.filter((v) => v.colourwayId === colourway.id).map((v) => v.name);
  const section: Content[] = [
    { text: piece.name, style: 'piece' },
    {
      columns: [
        swatch(lab),
        {
          text: [
            said,
            spread === undefined ? '' : `\nBetween shots ΔE00 ${number(spread)}`,
            requirement?.note ? `\n${requirement.note}` : '',
            versions.length > 0 ? `\nVersions kept: ${versions.join(', ')}` : '',
          ],
        },
      ],
      margin: [0, 2, 0, 6],
    },
    {
      table: {
        headerRows: 1,
        widths: WIDTHS,
        dontBreakRows: true,
        body: [HEADS.map((text) => ({ text, bold: true })), ...places.map((place) => sightingRow(reported, place))],
      },
      layout: 'lightHorizontalLines',
    },
  ];
  // a long table goes on over the page; a short one stays with its heading
  return [{ stack: section, unbreakable: places.length <= MOST_TOGETHER }];
}

function notesSection({ document, notes }: Reported): Content[] {
  if (notes.length === 0) return [];
  const nameOf = (rows: readonly { value: { id: string; name: string } }[], id: string | null) =>
    rows.find((row) => row.value.id === id)?.value.name;
  return [
    { text: 'Notes', style: 'colourway' },
    {
      ul: notes.map(({ shotId, colourwayId, frame, who, text, isSettled }) => {
        const way = nameOf(document.colourways, colourwayId);
        const place = [nameOf(document.shots, shotId) ?? 'a shot that was removed', `frame ${frame}`, way];
        return `${isSettled ? '✓ ' : ''}${place.filter(Boolean).join(', ')}: ${text} (${who})`;
      }),
    },
  ];
}

/** The pages of the report, from which a file is made; every colourway begins a page. */
export function reportPdf(reported: Reported): TDocumentDefinitions {
  const { document, measurements, at } = reported;
  const { name } = document.project.value;
  const date = at.toLocaleString('en-GB', { dateStyle: 'long', timeStyle: 'short' });
  const all = placesOf(document, measurements);
  const ways = document.colourways.map(({ value: colourway }, i): Content[] => [
    { text: colourway.name, style: 'colourway', ...(i > 0 && { pageBreak: 'before' as const }) },
    ...document.pieces.flatMap(({ value: piece }) => {
      const places = all.filter((p) => p.colourway.id === colourway.id && p.row.piece.id === piece.id);
      if (places.length > 0) return pieceSection(reported, places);
      const { requirement } = pieceRow(document, measurements, colourway.id, piece);
      const text = `${piece.name}: ${requirement ? `${requirement.name} is required; ` : ''}isolated in no shot.`;
      const said: Content = { text, margin: [0, 8, 0, 0] };
      return [said];
    }),
  ]);
  return {
    info: { title: `${name}, report`, creator: 'Mellow Hue' },
    pageSize: 'A4',
    pageOrientation: 'landscape',
    pageMargins: [36, 36, 36, 40],
    defaultStyle: { font: 'DejaVu', fontSize: 8, lineHeight: 1.2 },
    styles: {
      title: { fontSize: 20, bold: true },
      colourway: { fontSize: 15, bold: true, margin: [0, 10, 0, 2] },
      piece: { fontSize: 11, bold: true, margin: [0, 10, 0, 2] },
    },
    content: [
      { text: name, style: 'title' },
      { text: `Colours as measured, ${date}`, margin: [0, 0, 0, 8] },
      ...HOW_TO_READ.map((text): Content => ({ text, margin: [0, 0, 0, 4] })),
      ...ways.flat(),
      ...notesSection(reported),
    ],
    footer: (page, pages) => ({ text: `${name}  ·  ${page} of ${pages}`, alignment: 'center', fontSize: 7 }),
  };
}
