import { linear709FromOklab, oklabFromLinear709, TONES, type Tone } from '@mellow/core';
import { Ladder } from '../../ui/Ladder.tsx';
import { TintField } from '../../ui/TintField.tsx';

type Light = readonly [number, number, number];
interface Props {
  tone: Tone;
  label: string;
  /** Linear light that a grey of the tone becomes. */
  now: Light;
  onDrag: (wanted: Light) => void;
  onSave: (label: string, wanted: Light) => void;
}
/** OKLab chroma at the rim of the field: a strong cast. */
const REACH = 0.12;
const LADDER_REACH = 0.6;
/** Two of them stand side by side in the panel, px. */
const SIZE = 88;
const luminance = ([r, g, b]: Light): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;
const scaled = (light: Light, k: number): Light => [light[0] * k, light[1] * k, light[2] * k];

/** A grey of the picture, by eye: which way it is tinted, and how light it is. */
export function ToneControl({ tone, label, now, onDrag, onSave }: Props) {
  const { L, a, b } = oklabFromLinear709(now);
  const tinted = (to: { a: number; b: number }) => linear709FromOklab({ L, ...to });
  const density = -Math.log10(Math.max(luminance(now), 1e-6) / TONES[tone].grey);
  const lit = (to: number) => scaled(now, 10 ** (density - to));
  return (
    <figure className="tone">
      <figcaption>{label}</figcaption>
      <div className="row">
        <TintField
          a={a}
          b={b}
          reach={REACH}
          size={SIZE}
          label={`Tint of the ${label}`}
          onDrag={(to) => onDrag(tinted(to))}
          onSave={(to) => onSave(`Tint of the ${label}`, tinted(to))}
        />
        <Ladder
          density={density}
          reach={LADDER_REACH}
          height={SIZE}
          label={`Density of the ${label}`}
          onDrag={(to) => onDrag(lit(to))}
          onSave={(to) => onSave(`Density of the ${label}`, lit(to))}
        />
      </div>
    </figure>
  );
}
