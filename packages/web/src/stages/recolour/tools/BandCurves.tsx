import { Segmented } from 'antd';
import { useState } from 'react';
import { BAND_HUES, hueCurve, type BandHue, type Bands } from '@mellow/core';
import type { Phase } from '../../../editing/drag.ts';
import { NumberField } from '../../../ui/NumberField.tsx';
import { useHeld } from '../../../ui/useHeld.ts';
import { MARGIN, pathIn, PointField, type Spot } from '../../../ui/PointField.tsx';
import { hueStrip } from '../../../ui/hueStrip.ts';

const [WIDTH, HEIGHT] = [300, 120];
const STEPS = 144;

/** How each of the three is shown: its useful range on the field, and its number. */
const CURVES = {
  hue: { label: 'Hue', low: -60, high: 60, unit: '°', min: -180, max: 180, step: 0.5, digits: 1, scale: 1 },
  saturation: { label: 'Saturation', low: 0, high: 2, unit: '%', min: 0, max: 400, step: 1, digits: 0, scale: 100 },
  density: { label: 'Density', low: -0.6, high: 0.6, unit: 'D', min: -2, max: 2, step: 0.01, digits: 3, scale: 1 },
} as const;
type CurveName = keyof typeof CURVES;

interface Props {
  of: string;
  name: string;
  value: Bands;
  neutral: Bands;
  onSet: (next: Partial<Bands>, phase: Phase, what?: string) => void;
}

/** What becomes of a colour by its hue: a curve round all hues each for hue, saturation and density. */
export function BandCurves({ of, name, value: own, neutral, onSet }: Props) {
  const { shown: value, hold, letGo } = useHeld(own);
  const [shown, setShown] = useState<CurveName>('hue');
  const [chosen, setChosen] = useState<BandHue>('0');
  const { label, low, high, scale, ...number } = CURVES[shown];
  const curve = value[shown];
  const toField = (v: number) => Math.min(Math.max((v - low) / (high - low), 0), 1);
  const fromField = ({ y }: Spot) => Number((low + y * (high - low)).toFixed(4));
  const at = hueCurve(curve);
  const line = Array.from({ length: STEPS + 1 }, (_, i) => ({ x: i / STEPS, y: toField(at((i * 360) / STEPS)) }));
  const what = (hue: string) => `${name}: ${label.toLowerCase()} at ${hue}°`;
  const set = (hue: string, v: number, phase: Phase) => {
    const next = { [shown]: { ...curve, [hue]: v } };
    if (phase === 'drag') hold({ ...value, ...next });
    else letGo();
    onSet(next, phase, what(hue));
  };
  return (
    <>
      <Segmented
        size="small"
        aria-label={`${name}: which curve`}
        options={Object.entries(CURVES).map(([key, c]) => ({ value: key as CurveName, label: c.label }))}
        value={shown}
        onChange={setShown}
      />
      <PointField
        label={`${name}: ${label.toLowerCase()}`}
        width={WIDTH}
        height={HEIGHT}
        isFree={false}
        chosen={chosen}
        points={BAND_HUES.map((hue) => ({
          name: `${hue}`,
          x: hue / 360,
          y: toField(curve[`${hue}`]),
          text: `${hue}°: ${(curve[`${hue}`] * scale).toFixed(number.digits)} ${number.unit}`,
        }))}
        onChoose={(hue) => setChosen(hue as BandHue)}
        onDrag={(hue, to) => set(hue, fromField(to), 'drag')}
        onSave={(hue, to) => set(hue, fromField(to), 'done')}
        onReset={(hue) => set(hue, neutral[shown][hue as BandHue], 'done')}
      >
        {hueStrip(36).map((fill, i) => (
          <rect
            key={i}
            x={MARGIN + (i * (WIDTH - 2 * MARGIN)) / 36}
            y={MARGIN}
            width={(WIDTH - 2 * MARGIN) / 36 + 0.5}
            height={HEIGHT - 2 * MARGIN}
            fill={fill}
            opacity={0.45}
          />
        ))}
        <path
          d={pathIn(WIDTH, HEIGHT, [
            { x: 0, y: toField(neutral[shown]['0']) },
            { x: 1, y: toField(neutral[shown]['0']) },
          ])}
          stroke="var(--quiet)"
          strokeDasharray="3 3"
        />
        <path d={pathIn(WIDTH, HEIGHT, line)} fill="none" stroke="#000" strokeWidth={3} />
        <path d={pathIn(WIDTH, HEIGHT, line)} fill="none" stroke="#fff" strokeWidth={1.4} />
      </PointField>
      <div className="numbers">
        <NumberField
          key={`${shown} ${chosen}`}
          {...number}
          label={`at ${chosen}°`}
          name={`${name} ${label.toLowerCase()}`}
          animates={`${of}.${shown}.${chosen}`}
          neutral={neutral[shown][chosen] * scale}
          value={curve[chosen] * scale}
          onDrag={(v) => set(chosen, v / scale, 'drag')}
          onCommit={(v) => set(chosen, v / scale, 'done')}
        />
      </div>
    </>
  );
}
