import { Tooltip } from 'antd';
import type { ReactElement } from 'react';
import { useAppSelector } from '../app/store.ts';
import { keysText } from './keyText.ts';
import { keysOf, type CommandId } from './keyTable.ts';

/** Says what a control does, and the key that does the same. */
export function KeyTip({ id, title, children }: { id: CommandId; title: string; children: ReactElement }) {
  const keys = useAppSelector((s) => keysOf(id, s.keys));
  const shown = (
    <span className="key-tip">
      {title}
      {keys.length > 0 && <kbd>{keysText(keys)}</kbd>}
    </span>
  );
  return (
    <Tooltip title={shown} mouseEnterDelay={0.5}>
      {children}
    </Tooltip>
  );
}
