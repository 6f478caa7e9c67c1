import { useEffect, useMemo, useRef, useState } from 'react';
import type { ScribbleLayer, Stroke } from '@mellow/contract';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import {
  askedToHold,
  changeStroke,
  drawnOn,
  grown,
  strokeFollows,
  strokesHere,
  withHolding,
  withStroke,
  type StrokeHere,
} from '../../commands/strokes.ts';
import { sightingDraft } from '../../commands/stack.ts';
import { followHand, type Moved, type Phase } from '../../editing/drag.ts';
import { underWay } from '../../editing/editing.ts';
import { useAnswered } from '../../inhand/useAnswer.ts';
import { useNewest } from '../../ui/useNewest.ts';
import { strokeChosen } from '../../view/handSlice.ts';
import type { Stack } from './useStack.ts';

/** The wheel has rested when it has not turned for so long, milliseconds: what grew is an edit then. */
const RESTED = 400;

/** The strokes of the scribble in hand as they lie on this frame, which is chosen, and what can be done to them. */
export function useStrokes(stack: Stack, projectId: string) {
  const { layer, place, frame, ref } = stack;
  const dispatch = useAppDispatch();
  const scribble = layer?.kind === 'scribble' ? layer : undefined;
  const held = useAppSelector((s) => s.hand.stroke);
  const [onTheWay, setOnTheWay] = useState<StrokeHere & { layerId: string }>();
  const lying = useMemo(() => {
    const stored = scribble ? strokesHere(scribble, place) : [];
    return stored.map((s) => (scribble?.id === onTheWay?.layerId && s.at === onTheWay?.at ? onTheWay : s));
  }, [scribble, place, onTheWay]);
  const task = useMemo(() => {
    const strokes = ref && askedToHold(lying, frame);
    return strokes && ({ kind: 'holding', frame: ref, strokes } as const);
  }, [ref, lying, frame]);
  const told = useAnswered(task, { besides: true });
  const here = useMemo(
    () => (told && told.of.frame.url === ref?.url ? withHolding(lying, told.of.strokes, told.answer.parts) : lying),
    [lying, told, ref],
  );
  const chosen = held && held.layerId === scribble?.id ? here.find(({ at }) => at === held.at) : undefined;
  const growing = useRef<{ value: StrokeHere; timer: number; rested: () => void } | undefined>(undefined);
  useEffect(() => () => growing.current?.rested(), []);

  const change = ({ id }: ScribbleLayer, at: number, stroke: Stroke | undefined, phase: Phase, what: string) => {
    const moved: Moved<Stroke | undefined> = {
      draft: (document, next) => sightingDraft(document, place, { layers: withStroke(document, place, id, at, next) }),
      change: (document, next, label) => changeStroke(document, place, id, at, next, label),
    };
    followHand(projectId, moved, stroke, phase, what);
  };
  const does = useNewest({
    choose: (at: number | undefined) =>
      dispatch(strokeChosen(at === undefined || !scribble ? null : { layerId: scribble.id, at })),
    changed: (at: number, stroke: Stroke | undefined, phase: Phase, what: string) => {
      if (!scribble || scribble.locked) return;
      // the places of those behind it change
      if (!stroke) dispatch(strokeChosen(null));
      const now = stroke && drawnOn(stroke, frame);
      if (!now || phase === 'drag') return change(scribble, at, now, phase, what);
      // it lies there at once; what it lies on is known a moment later
      change(scribble, at, now, 'drag', what);
      setOnTheWay({ layerId: scribble.id, at, stroke: now });
      underWay.make(stack.looked(now), (whole = now) => {
        change(scribble, at, whole, 'done', what);
        setOnTheWay((held) => (held?.stroke === now ? undefined : held));
      });
    },
    follow: (of: StrokeHere, follow: Stroke['follow']) =>
      scribble && change(scribble, of.at, strokeFollows(of.stroke, follow), 'done', 'Another track for a stroke'),
    grown: (factor: number): boolean => {
      const before = growing.current;
      const value = scribble && grown(before ? [before.value] : here, factor);
      if (!value || scribble.locked) return false;
      change(scribble, value.at, value.stroke, 'drag', '');
      clearTimeout(before?.timer);
      let rested = before?.rested;
      if (!rested) {
        const resting = new Promise<void>((resolve) => (rested = resolve));
        underWay.make(resting, () => {
          const { at, stroke } = growing.current!.value;
          clearTimeout(growing.current!.timer);
          growing.current = undefined;
          change(scribble, at, stroke, 'done', 'Grow what a click selects');
        });
      }
      growing.current = { value, rested: rested!, timer: window.setTimeout(rested!, RESTED) };
      return true;
    },
  });
  return useMemo(() => ({ scribble, here, chosen, ...does }), [scribble, here, chosen, does]);
}
export type Strokes = ReturnType<typeof useStrokes>;
