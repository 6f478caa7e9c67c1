import { Input, type InputRef } from 'antd';
import { useEffect, useImperativeHandle, useLayoutEffect, useRef, useState, type Ref, type RefObject } from 'react';
import { flushSync } from 'react-dom';
import { typedNumber } from './typedNumber.ts';

export interface NumberProps {
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
export function factorOf({ shiftKey, altKey }: Held): number {
  if (shiftKey) return 10;
  return altKey ? 0.1 : 1;
}
export const clampTo = ({ min, max, digits }: NumberProps, v: number) =>
  Number(Math.min(Math.max(v, min), max).toFixed(digits + 1));

/** The field as a hand that drags it sees it. */
export interface HeldField {
  /** Shows a value until the hand lets go: undefined. */
  show: (held: number | undefined) => void;
}
interface FieldProps extends NumberProps {
  ref?: Ref<HeldField>;
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
export function NumberInput({ ref, name, disabled = false, neutral, useful, onTypedSame, ...props }: FieldProps) {
  const { value, unit, min, max, step, digits, onCommit } = props;
  const [typed, setTyped] = useState<string>();
  const field = useRef<InputRef>(null);
  const bar = useRef<HTMLElement>(null);
  const range = useful ?? ([min, max] as const);
  useHeldShown(ref, value, (shown) => {
    const input = field.current?.input;
    if (!input) return;
    input.value = shown.toFixed(digits);
    input.setAttribute('aria-valuenow', `${shown}`);
    if (bar.current && neutral !== undefined) Object.assign(bar.current.style, barOf(shown, neutral, range));
  });
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
  // Alt is what asks for the wheel here, not for smaller steps
  useWheel(field, (up, { shiftKey }) => !disabled && nudge(up, { shiftKey, altKey: false }));
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
      {neutral !== undefined && (
        <span className="value-bar" aria-hidden>
          <i ref={bar} style={barOf(value, neutral, range)} />
        </span>
      )}
    </span>
  );
}

/** Where a value stands in its useful range, from its neutral one. */
function barOf(value: number, neutral: number, [lo, hi]: readonly [number, number]) {
  const share = (v: number) => Math.min(Math.max((v - lo) / (hi - lo), 0), 1) * 100;
  const [from, to] = [share(neutral), share(value)];
  return { left: `${Math.min(from, to)}%`, width: `${Math.abs(to - from)}%` };
}

/**
 * What a hand drags the field to is written into the page by itself: rendering the field anew took 4 ms of every move
 * (`bench/browser.ts`). What is rendered meanwhile does not take it away.
 */
function useHeldShown(ref: Ref<HeldField> | undefined, own: number, write: (shown: number) => void) {
  const held = useRef<number>(undefined);
  useImperativeHandle(ref, () => ({
    show: (value) => {
      held.current = value;
      write(value ?? own);
    },
  }));
  useLayoutEffect(() => {
    if (held.current !== undefined) write(held.current);
  });
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
