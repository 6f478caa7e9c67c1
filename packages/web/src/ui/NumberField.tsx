import { Button, Input, Tooltip, type InputRef } from 'antd';
import { KeyRound } from 'lucide-react';
import { useContext, useEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';
import { flushSync } from 'react-dom';
import { Keyframing } from '../keyframing/Keyframing.ts';
import { typedNumber } from './typedNumber.ts';

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

interface FieldProps extends NumberProps {
  name: string;
  disabled?: boolean;
  /** Where the bar under it begins; undefined: no bar. */
  neutral?: number | undefined;
  /** Over what the bar stands, where that is less than what can be typed. */
  useful?: readonly [number, number] | undefined;
  /** The value that stands there already has been typed: it is meant for this frame. */
  onTypedSame?: () => void;
}
/**
 * The field itself. Typed: numbers and arithmetic; Enter and leaving it take them, `=` takes them and stays, Escape
 * forgets them. Nudged with the arrow keys and, holding Alt, the wheel. Enter and Escape give the focus back to the
 * picture.
 */
function Field({ name, disabled = false, neutral, useful, onTypedSame, ...props }: FieldProps) {
  const { value, unit, min, max, step, digits, onCommit } = props;
  const [typed, setTyped] = useState<string>();
  const field = useRef<InputRef>(null);
  const take = (): number => {
    const number = typed === undefined ? undefined : typedNumber(typed, value);
    setTyped(undefined);
    if (number === undefined) return value;
    const next = clampTo(props, number);
    if (next.toFixed(digits) !== value.toFixed(digits)) onCommit(next);
    else onTypedSame?.();
    return next;
  };
  const nudge = (up: boolean, held: Held) => onCommit(clampTo(props, value + (up ? 1 : -1) * step * factorOf(held)));
  const leave = () => field.current?.blur();
  useWheel(field, (up, held) => !disabled && nudge(up, { ...held, altKey: false }));
  return (
    <span className="number-field">
      <Input
        ref={field}
        role="spinbutton"
        aria-label={name}
        aria-valuenow={value}
        aria-valuemin={min}
        aria-valuemax={max}
        inputMode="decimal"
        size="small"
        autoComplete="off"
        disabled={disabled}
        value={typed ?? value.toFixed(digits)}
        suffix={unit}
        onFocus={() => field.current?.select()}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={take}
        onKeyDown={(e) => {
          if (e.key === 'Enter') leave();
          else if (e.key === 'Escape') {
            // what was typed is forgotten before the field is left, which would take it
            flushSync(() => setTyped(undefined));
            leave();
          } else if (e.key === '=') {
            e.preventDefault();
            setTyped(take().toFixed(digits));
          } else if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
            e.preventDefault();
            setTyped(undefined);
            nudge(e.key === 'ArrowUp', e);
          }
        }}
      />
      {neutral !== undefined && <ValueBar value={value} neutral={neutral} range={useful ?? [min, max]} />}
    </span>
  );
}

/** Where a value stands in its useful range, from its neutral one. */
function ValueBar({
  value,
  neutral,
  range: [lo, hi],
}: {
  value: number;
  neutral: number;
  range: readonly [number, number];
}) {
  const share = (v: number) => Math.min(Math.max((v - lo) / (hi - lo), 0), 1) * 100;
  const [from, to] = [share(neutral), share(value)];
  return (
    <span className="value-bar" aria-hidden>
      <i style={{ left: `${Math.min(from, to)}%`, width: `${Math.abs(to - from)}%` }} />
    </span>
  );
}

/** The wheel over a field while Alt is held: the panel does not scroll then. */
function useWheel(field: RefObject<InputRef | null>, turn: (up: boolean, held: Held) => void) {
  const newest = useRef(turn);
  useEffect(() => {
    newest.current = turn;
  });
  useEffect(() => {
    const input = field.current?.input;
    const onWheel = (e: WheelEvent) => {
      if (!e.altKey) return;
      e.preventDefault();
      newest.current(e.deltaY < 0 || e.deltaX < 0, e);
    };
    input?.addEventListener('wheel', onWheel, { passive: false });
    return () => input?.removeEventListener('wheel', onWheel);
  }, [field]);
}

interface Labelled extends NumberProps {
  label: string;
  /** What a screen reader and the tests call it, where the label alone would not be unique. */
  name?: string;
  /** Where a double click on the label goes back to. */
  neutral: number;
  /** Dotted name of the number in what is animated; left out: it has no keyframes. */
  animates?: string;
  /** Over what the bar under it stands, where that is less than what can be typed. */
  useful?: readonly [number, number];
}
/**
 * A number that can be typed, dragged by its label or sideways on the field, nudged with the arrow keys and the wheel,
 * and reset with a double click on its label.
 */
export function NumberField({ label, name = label, neutral, animates, useful, ...props }: Labelled) {
  const scrub = useScrub(props, 0);
  const onField = useScrub(props, 3);
  const keyframing = useContext(Keyframing);
  const setHere = () => {
    if (animates && keyframing?.stateOf(animates) === 'between') keyframing.toggle([animates], name);
  };
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
        <span className="grow" {...onField}>
          <Field name={name} neutral={neutral} useful={useful} onTypedSame={setHere} {...props} />
        </span>
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
