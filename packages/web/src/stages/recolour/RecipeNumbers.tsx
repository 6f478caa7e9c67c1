import type { Shift } from '@mellow/contract';
import { NEUTRAL_SHIFT } from '@mellow/core';
import { Keyframing } from '../../keyframing/Keyframing.ts';
import { NumberField } from '../../ui/NumberField.tsx';
import { NumberRows, type NumberRow } from '../../ui/NumberRows.tsx';
import type { RecipeInHand } from './useRecipe.ts';

const ROWS: NumberRow<keyof Shift>[] = [
  { key: 'hueDeg', label: 'Hue', unit: '°', min: -3600, max: 3600, step: 0.5, digits: 1, useful: [-180, 180] },
  { key: 'saturation', label: 'Saturation', unit: '%', min: 0, max: 400, step: 1, digits: 1, scale: 100 },
  { key: 'density', label: 'Density', unit: 'D', min: -2, max: 2, step: 0.01, digits: 3 },
  { key: 'exposureStops', label: 'Exposure', unit: 'st', min: -8, max: 8, step: 0.05, digits: 2 },
];
const [MAIN, FURTHER] = [ROWS.slice(0, 3), ROWS.slice(3)];

/** The recipe in numbers. */
export function RecipeNumbers({ recipe: { shift, strength, move, keyframing } }: { recipe: RecipeInHand }) {
  const rows = (shown: NumberRow<keyof Shift>[]) => (
    <NumberRows
      rows={shown}
      values={shift}
      neutral={NEUTRAL_SHIFT}
      of="shift"
      onDrag={(key, v) => move({ shift: { [key]: v } }, 'drag')}
      onCommit={(key, v, name) => move({ shift: { [key]: v } }, 'done', name)}
    />
  );
  return (
    <Keyframing value={keyframing}>
      <div className="numbers-two">
        {rows(MAIN)}
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
        {rows(FURTHER)}
      </div>
    </Keyframing>
  );
}
