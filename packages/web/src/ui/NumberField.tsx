import { InputNumber } from 'antd';
import { useRef } from 'react';

interface Props {
  label: string;
  /** What a screen reader and the tests call it, where the label alone would not be unique. */
  name?: string;
  value: number;
  unit?: string;
  min: number;
  max: number;
  /** One nudge (arrow key, a pixel of drag); Shift makes it ten times larger, Alt ten times smaller. */
  step: number;
  digits: number;
  /** Where a double click on the label goes back to. */
  neutral: number;
  onDrag?: (value: number) => void;
  onCommit: (value: number) => void;
}

/** A number that can be typed, dragged by its label, nudged with the arrow keys and reset with a double click. */
export function NumberField({ label, name = label, value, unit, min, max, step, digits, neutral, onDrag, onCommit }: Props) {
  // what has been typed and not yet taken: the field itself falls back to `value` before it tells
  const typed = useRef<string | undefined>(undefined);
  const take = () => {
    const number = Number(typed.current?.replace(',', '.').trim() || NaN);
    typed.current = undefined;
    if (Number.isFinite(number) && number.toFixed(digits) !== value.toFixed(digits)) onCommit(clamp(number));
  };
  const drag = useRef<{ x: number; from: number; at: number } | undefined>(undefined);
  const clamp = (v: number) => Number(Math.min(Math.max(v, min), max).toFixed(digits + 1));
  const factor = (e: { shiftKey: boolean; altKey: boolean }) => (e.shiftKey ? 10 : e.altKey ? 0.1 : 1);
  return (
    <>
      <span
        className="drag-number"
        title={`Drag to change, double click for ${neutral}`}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          drag.current = { x: e.clientX, from: value, at: value };
        }}
        onPointerMove={(e) => {
          if (!drag.current) return;
          drag.current.at = clamp(drag.current.from + (e.clientX - drag.current.x) * step * factor(e));
          onDrag?.(drag.current.at);
        }}
        onPointerUp={() => {
          const end = drag.current;
          drag.current = undefined;
          if (end && end.at !== end.from) onCommit(end.at);
        }}
        onDoubleClick={() => onCommit(neutral)}
      >
        {label}
      </span>
      <InputNumber
        aria-label={name}
        size="small"
        style={{ width: '100%' }}
        value={value}
        min={min}
        max={max}
        controls={false}
        keyboard={false}
        suffix={unit}
        formatter={(v) => (v === undefined ? '' : Number(v).toFixed(digits))}
        parser={(text) => Number((text ?? '').replace(',', '.').replace(/[^\d.+-]/g, ''))}
        onInput={(text) => (typed.current = text)}
        onBlur={take}
        onPressEnter={take}
        onKeyDown={(e) => {
          if (e.key !== 'ArrowUp' && e.key !== 'ArrowDown') return;
          e.preventDefault();
          typed.current = undefined;
          onCommit(clamp(value + (e.key === 'ArrowUp' ? 1 : -1) * step * factor(e)));
        }}
      />
    </>
  );
}
