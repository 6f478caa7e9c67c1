import { Button, InputNumber, Tooltip } from 'antd';
import { KeyRound } from 'lucide-react';
import { useContext, useRef, type PointerEvent } from 'react';
import { Keyframing } from '../keyframing/Keyframing.ts';

interface NumberProps {
  value: number;
  unit?: string;
  min: number;
  max: number;
  /** One nudge (arrow key, a pixel of drag); Shift makes it ten times larger, Alt ten times smaller. */
  step: number;
  digits: number;
  onDrag?: (value: number) => void;
  onCommit: (value: number) => void;
}
type Held = { shiftKey: boolean; altKey: boolean };
function factorOf({ shiftKey, altKey }: Held): number {
  if (shiftKey) return 10;
  return altKey ? 0.1 : 1;
}
const clampTo = ({ min, max, digits }: NumberProps, v: number) =>
  Number(Math.min(Math.max(v, min), max).toFixed(digits + 1));

/** Pointer handlers that change a number by dragging sideways; `slack` screen pixels are still a click. */
function useScrub(props: NumberProps, slack: number) {
  const drag = useRef<{ x: number; from: number; at: number; moved: boolean } | undefined>(undefined);
  return {
    onPointerDown: (e: PointerEvent) => {
      if (slack === 0) e.currentTarget.setPointerCapture(e.pointerId);
      drag.current = { x: e.clientX, from: props.value, at: props.value, moved: slack === 0 };
    },
    onPointerMove: (e: PointerEvent) => {
      const held = drag.current;
      if (!held) return;
      if (!held.moved) {
        if (Math.abs(e.clientX - held.x) <= slack) return;
        held.moved = true;
        e.currentTarget.setPointerCapture(e.pointerId);
      }
      held.at = clampTo(props, held.from + (e.clientX - held.x) * props.step * factorOf(e));
      props.onDrag?.(held.at);
    },
    onPointerUp: () => {
      const end = drag.current;
      drag.current = undefined;
      if (end && end.at !== end.from) props.onCommit(end.at);
    },
  };
}

/** The field itself: typed, nudged with the arrow keys. */
function Field({ name, disabled = false, ...props }: NumberProps & { name: string; disabled?: boolean }) {
  const { value, unit, min, max, step, digits, onCommit } = props;
  // what has been typed and not yet taken: the field itself falls back to `value` before it tells
  const typed = useRef<string | undefined>(undefined);
  const take = () => {
    const number = Number(typed.current?.replace(',', '.').trim() || NaN);
    typed.current = undefined;
    if (Number.isFinite(number) && number.toFixed(digits) !== value.toFixed(digits)) onCommit(clampTo(props, number));
  };
  return (
    <InputNumber
      aria-label={name}
      size="small"
      style={{ width: '100%' }}
      disabled={disabled}
      value={value}
      min={min}
      max={max}
      controls={false}
      keyboard={false}
      suffix={unit}
      // what is being typed comes as text, whatever the types say
      formatter={(v: number | string | undefined) => (v === undefined ? '' : Number(v).toFixed(digits))}
      parser={(text) => Number((text ?? '').replace(',', '.').replace(/[^\d.+-]/g, ''))}
      onInput={(text) => (typed.current = text)}
      onBlur={take}
      onPressEnter={take}
      onKeyDown={(e) => {
        if (e.key !== 'ArrowUp' && e.key !== 'ArrowDown') return;
        e.preventDefault();
        typed.current = undefined;
        onCommit(clampTo(props, value + (e.key === 'ArrowUp' ? 1 : -1) * step * factorOf(e)));
      }}
    />
  );
}

interface Labelled extends NumberProps {
  label: string;
  /** What a screen reader and the tests call it, where the label alone would not be unique. */
  name?: string;
  /** Where a double click on the label goes back to. */
  neutral: number;
  /** Dotted name of the number in what is animated; left out: it has no keyframes. */
  animates?: string;
}
/** A number that can be typed, dragged by its label, nudged with the arrow keys and reset with a double click. */
export function NumberField({ label, name = label, neutral, animates, ...props }: Labelled) {
  const scrub = useScrub(props, 0);
  return (
    <>
      <span
        className="drag-number"
        title={`Drag to change, double click for ${neutral}`}
        {...scrub}
        onDoubleClick={() => props.onCommit(neutral)}
      >
        {label}
      </span>
      <span className="row">
        <Field name={name} {...props} />
        {animates && <KeyframeButton name={name} animates={[animates]} />}
      </span>
    </>
  );
}

/** How several numbers stand together. */
function togetherOf(states: readonly ('none' | 'between' | 'here')[]): 'none' | 'between' | 'here' {
  if (states.every((s) => s === 'here')) return 'here';
  return states.every((s) => s === 'none') ? 'none' : 'between';
}

/** Sets a keyframe of a number (or of several together) on this frame, or takes it away. */
export function KeyframeButton({ name, animates }: { name: string; animates: readonly string[] }) {
  const keyframing = useContext(Keyframing);
  if (!keyframing) return null;
  const state = togetherOf(animates.map(keyframing.stateOf));
  const does =
    state === 'here' ? `Take away the keyframe of ${name} on this frame` : `Set a keyframe of ${name} on this frame`;
  return (
    <Tooltip title={state === 'between' ? `${does}; it has others` : does}>
      <Button
        size="small"
        type={state === 'here' ? 'primary' : 'text'}
        aria-label={does}
        aria-pressed={state === 'here'}
        style={{ width: 22, minWidth: 22, opacity: state === 'none' ? 0.45 : 1 }}
        onClick={() => keyframing.toggle(animates, name)}
      >
        <KeyRound size={12} />
      </Button>
    </Tooltip>
  );
}

interface Cell extends NumberProps {
  name: string;
  disabled?: boolean;
  /** Where a double click goes back to; undefined: nowhere. */
  neutral: number | undefined;
}
/**
 * The same number in a table, without a label: dragged sideways on the field itself, reset with a double click on it.
 */
export function NumberCell({ name, disabled = false, neutral, ...props }: Cell) {
  const scrub = useScrub(props, 3);
  const reset =
    neutral === undefined
      ? 'drag sideways to change'
      : `drag sideways to change, double click for ${neutral.toFixed(props.digits)}`;
  return (
    <span
      title={disabled ? '' : `${name}: ${reset}`}
      {...(disabled ? {} : scrub)}
      onDoubleClick={() => !disabled && neutral !== undefined && props.onCommit(neutral)}
    >
      <Field name={name} disabled={disabled} {...props} />
    </span>
  );
}
