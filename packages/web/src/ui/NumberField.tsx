import { Button, Tooltip } from 'antd';
import { KeyRound } from 'lucide-react';
import { useContext, useRef, type PointerEvent, type RefObject } from 'react';
import { Keyframing } from '../keyframing/Keyframing.ts';
import { clampTo, factorOf, NumberInput, type HeldField, type NumberProps } from './NumberInput.tsx';

/** Pointer handlers that change a number by dragging sideways; `slack` screen pixels are still a click. */
function useScrub(props: NumberProps, slack: number, fieldRef: RefObject<HeldField | null>) {
  const drag = useRef<{ x: number; from: number; at: number; moved: boolean } | undefined>(undefined);
  const end = () => {
    const last = drag.current;
    drag.current = undefined;
    if (last && last.at !== last.from) props.onCommit(last.at);
    fieldRef.current?.show(undefined);
  };
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
      if (!props.onDrag) return;
      fieldRef.current?.show(held.at);
      props.onDrag(held.at);
    },
    onPointerUp: end,
    onPointerCancel: end,
  };
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
  const field = useRef<HeldField>(null);
  const onLabel = useScrub(props, 0, field);
  const onField = useScrub(props, 3, field);
  const keyframing = useContext(Keyframing);
  const setHere = () => {
    if (animates && keyframing?.stateOf(animates) === 'between') keyframing.toggle([animates], name);
  };
  return (
    <>
      <span
        className="drag-number"
        title={`Drag to change, double click for ${neutral}`}
        {...onLabel}
        onDoubleClick={() => props.onCommit(neutral)}
      >
        {label}
      </span>
      <span className="row">
        <span className="grow" {...onField}>
          <NumberInput ref={field} {...props} name={name} neutral={neutral} useful={useful} onTypedSame={setHere} />
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
  const field = useRef<HeldField>(null);
  const onField = useScrub(props, 3, field);
  const reset =
    neutral === undefined
      ? 'drag sideways to change'
      : `drag sideways to change, double click for ${neutral.toFixed(props.digits)}`;
  return (
    <span
      title={disabled ? '' : `${name}: ${reset}`}
      {...(disabled ? {} : onField)}
      onDoubleClick={() => !disabled && neutral !== undefined && props.onCommit(neutral)}
    >
      <NumberInput ref={field} {...props} name={name} disabled={disabled} />
    </span>
  );
}
