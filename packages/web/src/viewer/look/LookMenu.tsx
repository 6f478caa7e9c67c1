import { Button, Popover, Skeleton } from 'antd';
import { Sunset } from 'lucide-react';
import { lazy, Suspense } from 'react';
import { isLookOn, turnLook } from '../../commands/looks.ts';
import { documentOf, edit } from '../../editing/editing.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { KeyTip } from '../../keys/KeyTip.tsx';
import { useCommands } from '../../keys/useCommands.ts';

// most work is without a look: its controls are no part of the way to the first picture
const LookContent = lazy(() => import('./LookContent.tsx'));

/** The look, after all recolours: what is judged is judged through it. */
export function LookMenu({ inHand }: { inHand: InHand }) {
  const { document } = inHand;
  const { id: projectId, look } = document.project.value;
  const hasOne = look !== null || document.shots.some((s) => s.value.look);
  const isOn = hasOne && isLookOn(document);
  const turn = () => edit(projectId, turnLook(documentOf(projectId) ?? document));
  useCommands({ look: { run: turn, isOn, cannot: hasOne ? undefined : 'no look' } });
  const content = (
    <Suspense fallback={<Skeleton active style={{ width: 300 }} />}>
      <LookContent inHand={inHand} hasOne={hasOne} onTurn={turn} />
    </Suspense>
  );
  return (
    <Popover trigger="click" placement="bottomRight" title="Look, after all recolours" content={content}>
      <span>
        <KeyTip id="look" title="Look: the overall correction after all recolours">
          <Button size="small" type={isOn ? 'primary' : 'text'} aria-label="Look" aria-pressed={isOn}>
            <Sunset size={15} />
          </Button>
        </KeyTip>
      </span>
    </Popover>
  );
}
