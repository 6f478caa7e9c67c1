import type { Shift } from '@mellow/contract';
import { NEUTRAL_SHIFT } from '@mellow/core';
import { Keyframing } from '../../keyframing/Keyframing.ts';
import { NumberField } from '../../ui/NumberField.tsx';
import type { RecipeInHand } from './useRecipe.ts';

interface Row {
  key: keyof Shift;
  label: string;
  unit: string;
  min: number;
  max: number;
  step: number;
  digits: number;
  /** What is shown for 1. */
  scale?: number;
}
const ROWS: Row[] = [
  { key: 'hueDeg', label: 'Hue', unit: '°', min: -3600, max: 3600, step: 0.5, digits: 1 },
  { key: 'saturation', label: 'Saturation', unit: '%', min: 0, max: 400, step: 1, digits: 1, scale: 100 },
  { key: 'density', label: 'Density', unit: 'D', min: -2, max: 2, step: 0.01, digits: 3 },
  { key: 'exposureStops', label: 'Exposure', unit: 'stops', min: -8, max: 8, step: 0.05, digits: 2 },
];

/** The recipe in numbers. */
export function RecipeNumbers({ recipe: { shift, strength, move, keyframing } }: { recipe: RecipeInHand }) {
  return (
    <Keyframing value={keyframing}>
      <div className="numbers">
        {ROWS.map(({ key, scale = 1, ...row }) => (
          <NumberField
            key={key}
            {...row}
            animates={`shift.${key}`}
            neutral={NEUTRAL_SHIFT[key] * scale}
            value={shift[key] * scale}
            onDrag={(v) => move({ shift: { [key]: v / scale } }, 'drag')}
            onCommit={(v) => move({ shift: { [key]: v / scale } }, 'done', row.label)}
          />
        ))}
        <NumberField
          animates="strength"
          label="Strength"
          unit="%"
          min={0}
          max={100}
          step={1}
          digits={0}
          neutral={100}
          value={strength * 100}
          onDrag={(v) => move({ strength: v / 100 }, 'drag')}
          onCommit={(v) => move({ strength: v / 100 }, 'done', 'Strength')}
        />
      </div>
    </Keyframing>
  );
}
