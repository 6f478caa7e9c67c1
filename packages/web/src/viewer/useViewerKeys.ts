import type { RefObject } from 'react';
import { store, useAppDispatch } from '../app/store.ts';
import { useKeys } from '../ui/useKeys.ts';
import { recolourTurned, sourceHeld, toolChosen, TOOLS } from '../view/handSlice.ts';
import { lookChanged, VIEWS } from '../view/lookSlice.ts';
import type { FrameViewer } from './FrameViewer.ts';
import { TOOL_TABLE } from './toolTable.tsx';

const HOTKEYS = new Map(TOOLS.map((tool) => [TOOL_TABLE[tool].hotkey, tool]));

/** The keys that work anywhere on the page while a picture is shown. */
export function useViewerKeys(viewer: RefObject<FrameViewer | undefined>, hasTools: boolean): void {
  const dispatch = useAppDispatch();
  const isKeyframeChosen = () => store.getState().keyframing.chosen.length > 0;
  const toggleWipe = () => {
    const { compare } = store.getState().look;
    dispatch(lookChanged({ compare: compare === 'wipe' ? 'off' : 'wipe' }));
  };
  useKeys(
    [...HOTKEYS.keys()].join(','),
    (e) => {
      const tool = HOTKEYS.get(e.key.toLowerCase());
      if (hasTools && tool) dispatch(toolChosen(tool));
    },
    [hasTools],
  );
  useKeys('enter', () => void viewer.current?.key('Enter'));
  useKeys('escape', () => void viewer.current?.key('Escape'));
  // chosen keyframes are what is deleted first
  useKeys('delete,backspace', () => {
    if (!isKeyframeChosen()) viewer.current?.key('Delete');
  });
  useKeys('g', () => viewer.current?.setGhosted(true), [], { keydown: true });
  useKeys('g', () => viewer.current?.setGhosted(false), [], { keyup: true, keydown: false });
  useKeys('q', () => dispatch(sourceHeld(true)), [], { keydown: true });
  useKeys('q', () => dispatch(sourceHeld(false)), [], { keyup: true, keydown: false });
  useKeys('t', () => dispatch(recolourTurned('piece')));
  useKeys('shift+t', () => dispatch(recolourTurned('all')));
  useKeys('f', () => viewer.current?.fit());
  useKeys('y', () => {
    const { scope } = store.getState().look;
    dispatch(lookChanged({ scope: { ...scope, place: scope.place === 'off' ? 'beside' : 'off' } }));
  });
  useKeys('w', toggleWipe);
  useKeys(VIEWS.map((_, i) => String(i + 1)).join(','), (e) => {
    dispatch(lookChanged({ view: VIEWS[Number(e.key) - 1]! }));
  });
}

const WAYS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
/** Picture pixels that one press of an arrow key moves by. */
function nudgeStep({ shiftKey, altKey }: React.KeyboardEvent): number {
  if (shiftKey) return 10;
  return altKey ? 0.1 : 1;
}
/** Arrow keys on the picture nudge the shape in hand; without one they go on to the frame ruler. */
export function nudgeOnArrow(viewer: FrameViewer | undefined, e: React.KeyboardEvent): void {
  const way = WAYS[e.key];
  const step = nudgeStep(e);
  if (!way || !viewer?.nudge(way[0] * step, way[1] * step)) return;
  e.preventDefault();
  e.nativeEvent.stopImmediatePropagation();
}
