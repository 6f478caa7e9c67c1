import type { ReactNode } from 'react';
import { Group, Panel, Separator } from 'react-resizable-panels';

/** The panel on the left, the picture beside it; the width is remembered. */
export function StageSplit({ panel, children }: { panel: ReactNode; children: ReactNode }) {
  return (
    <Group orientation="horizontal" style={{ flex: 1, minWidth: 0 }}>
      <Panel id="panel" defaultSize="348px" minSize="300px" maxSize="460px" groupResizeBehavior="preserve-pixel-size">
        <div className="panel">{panel}</div>
      </Panel>
      <Separator aria-label="Panel width" style={{ width: 4, cursor: 'col-resize', background: 'var(--panel)' }} />
      <Panel id="picture" minSize="400px">
        {children}
      </Panel>
    </Group>
  );
}
