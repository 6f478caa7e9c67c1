import type { RefObject } from 'react';
import { store, useAppDispatch, useAppSelector } from '../app/store.ts';
import type { CommandId } from '../keys/keyTable.ts';
import { useCommands, type Commands } from '../keys/useCommands.ts';
import { recolourTurned, sourceHeld, toolChosen, type ToolName } from '../view/handSlice.ts';
import { lookChanged, VIEWS, type Look } from '../view/lookSlice.ts';
import type { FrameViewer } from './FrameViewer.ts';
import { TOOL_TABLE } from './toolTable.tsx';

export const VIEW_COMMANDS: Record<Look['view'], CommandId> = {
  Result: 'viewResult',
  Source: 'viewSource',
  Matte: 'viewMatte',
  Tint: 'viewTint',
  'Cut-out': 'viewCutOut',
  Difference: 'viewDifference',
};

/** The commands of the picture, its views and its tools, while it is shown. */
export function useViewerKeys(viewer: RefObject<FrameViewer | undefined>, tools: readonly ToolName[]): void {
  const dispatch = useAppDispatch();
  const { view, compare, scope, beside } = useAppSelector((s) => s.look);
  const { tool: toolInHand, recolourOff } = useAppSelector((s) => s.hand);
  const views: Commands = {};
  for (const name of VIEWS)
    views[VIEW_COMMANDS[name]] = { run: () => dispatch(lookChanged({ view: name })), isOn: view === name };
  const chosen: Commands = {};
  for (const tool of tools)
    chosen[TOOL_TABLE[tool].command] = { run: () => dispatch(toolChosen(tool)), isOn: toolInHand === tool };
  // chosen keyframes are what is deleted first
  const removeChosen = () => {
    if (store.getState().keyframing.chosen.length === 0) viewer.current?.key('Delete');
  };
  const shownScope = { ...scope, place: scope.place === 'off' ? ('beside' as const) : ('off' as const) };
  useCommands({
    ...views,
    ...chosen,
    finish: { run: () => void viewer.current?.key('Enter') },
    leave: { run: () => void viewer.current?.key('Escape') },
    removeChosen: { run: removeChosen },
    handlesHidden: {
      run: () => viewer.current?.setGhosted(true),
      release: () => viewer.current?.setGhosted(false),
    },
    sourceHeld: { run: () => dispatch(sourceHeld(true)), release: () => dispatch(sourceHeld(false)) },
    pieceOff: { run: () => dispatch(recolourTurned('piece')), isOn: recolourOff === 'piece' },
    allOff: { run: () => dispatch(recolourTurned('all')), isOn: recolourOff === 'all' },
    fit: { run: () => viewer.current?.fit() },
    fullSize: { run: () => viewer.current?.zoomTo(1) },
    scopes: { run: () => dispatch(lookChanged({ scope: shownScope })), isOn: scope.place !== 'off' },
    beside: {
      run: () => dispatch(lookChanged({ beside: !beside, ...(!beside && { view: 'Matte' }) })),
      isOn: beside,
    },
    wipe: {
      run: () => dispatch(lookChanged({ compare: compare === 'wipe' ? 'off' : 'wipe' })),
      isOn: compare === 'wipe',
    },
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
/**
 * Keys on the picture: arrows nudge the shape in hand, or with a tool that draws move a pointer that Space presses and
 * lets go; else they go on to the frame ruler.
 */
export function keyOnPicture(viewer: FrameViewer | undefined, e: React.KeyboardEvent): void {
  const way = WAYS[e.key];
  const step = nudgeStep(e);
  const isNudged = way !== undefined && viewer?.nudge(way[0] * step, way[1] * step);
  if (!isNudged && !viewer?.keyPointer(e)) return;
  e.preventDefault();
  e.nativeEvent.stopImmediatePropagation();
}
