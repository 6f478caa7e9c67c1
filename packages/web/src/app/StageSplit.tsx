import { lazy, Suspense, useEffect, type ReactNode } from 'react';
import type { InHand } from '../inhand/inHand.ts';
import { useAppSelector } from './store.ts';
import { useRightAfter } from '../ui/useRightAfter.ts';
import { useIsWide } from './useIsWide.ts';
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels';

const ScopePane = lazy(() => import('../viewer/scopes/ScopePane.tsx'));

interface Props {
  inHand: InHand;
  panel: ReactNode;
  children: ReactNode;
}
/** The panel on the left, the picture beside it; its width is remembered. On wide screens it begins wider. */
export function StageSplit({ inHand, panel, children }: Props) {
  const isWide = useIsWide();
  useHoldsElsewhere();
  const { defaultLayout, onLayoutChanged } = useDefaultLayout({
    id: 'mellow:panel',
    storage: localStorage,
    onlySaveAfterUserInteractions: true,
  });
  // the picture follows the hand first, its numbers right after
  const { shown, listening } = useRightAfter(panel);
  const scopePlace = useAppSelector((s) => s.look.scope.place);
  return (
    <Group
      orientation="horizontal"
      style={{ flex: 1, minWidth: 0 }}
      {...(defaultLayout && { defaultLayout })}
      onLayoutChanged={onLayoutChanged}
    >
      <Panel
        id="panel"
        defaultSize={isWide ? '420px' : '348px'}
        minSize="300px"
        maxSize="560px"
        groupResizeBehavior="preserve-pixel-size"
      >
        <div className="panel" {...listening}>
          {scopePlace === 'panel' && (
            <Suspense fallback={null}>
              <ScopePane inHand={inHand} />
            </Suspense>
          )}
          {shown}
        </div>
      </Panel>
      <Separator aria-label="Panel width" style={{ width: 4, cursor: 'col-resize', background: 'var(--panel)' }} />
      <Panel id="picture" minSize="400px">
        {children}
      </Panel>
    </Group>
  );
}

/**
 * A pointer that something else holds moves no panel. The panels' package is told so before it measures every edge for
 * each of its moves, which took longer than all that our own page does (`bench/browser.ts`).
 */
function useHoldsElsewhere() {
  useEffect(() => {
    const leaveAlone = (e: PointerEvent) => {
      if (!(e.target instanceof Element) || e.target.closest('[data-separator]')) return;
      if (e.target.hasPointerCapture(e.pointerId)) e.preventDefault();
    };
    addEventListener('pointermove', leaveAlone, { capture: true });
    return () => removeEventListener('pointermove', leaveAlone, { capture: true });
  }, []);
}
