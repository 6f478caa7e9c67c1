import { Button, Popover, Segmented, Switch } from 'antd';
import { Sunset } from 'lucide-react';
import { useState } from 'react';
import { isLookOn, lookThere, setViewTable, turnLook } from '../../commands/looks.ts';
import { edit } from '../../editing/editing.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { KeyTip } from '../../keys/KeyTip.tsx';
import { useCommands } from '../../keys/useCommands.ts';
import { LookOfShot } from './LookOfShot.tsx';
import { LookNumbers } from './LookNumbers.tsx';
import { TableRow } from './TableRow.tsx';
import { useLook } from './useLook.ts';

/** The look of all shots, or of the one in hand, and the viewing table. What is judged is judged through them. */
export function LookMenu({ inHand }: { inHand: InHand }) {
  const { document, shot } = inHand;
  const { id: projectId, viewTable, look: ofProject } = document.project.value;
  const [isOfShot, setOfShot] = useState(false);
  const whose = isOfShot && shot ? shot.id : 'project';
  const look = useLook(document, whose);
  const isOn = isLookOn(document);
  const hasOne = ofProject !== null || document.shots.some((s) => s.value.look);
  const turn = () => edit(projectId, turnLook(look.now()));
  useCommands({ look: { run: turn, isOn: hasOne && isOn, cannot: hasOne ? undefined : 'no look' } });
  const content = (
    <div className="look-menu">
      <div className="row">
        <span className="grow">Judge through looks</span>
        <Switch size="small" aria-label="Look on" disabled={!hasOne} checked={hasOne && isOn} onChange={turn} />
      </div>
      {shot && (
        <Segmented
          size="small"
          block
          aria-label="Whose look"
          options={[
            { value: false, label: 'All shots' },
            { value: true, label: shot.name },
          ]}
          value={isOfShot}
          onChange={setOfShot}
        />
      )}
      {whose !== 'project' && <LookOfShot document={document} shotId={whose} now={look.now} />}
      <TableRow
        none="No table"
        table={lookThere(document, whose).cube}
        projectId={projectId}
        onChange={look.setCube}
        onProblem={look.setProblem}
      />
      {look.problem && <div role="alert">{look.problem}</div>}
      <LookNumbers look={look} />
      <h3>For judging only, never rendered</h3>
      <TableRow
        none="No viewing table"
        name="Viewing table"
        table={viewTable}
        projectId={projectId}
        onChange={(cube) => edit(projectId, setViewTable(look.now(), cube))}
        onProblem={look.setProblem}
      />
    </div>
  );
  return (
    <Popover trigger="click" placement="bottomRight" title="Look, after all recolours" content={content}>
      <span>
        <KeyTip id="look" title="Look: the overall correction after all recolours">
          <Button
            size="small"
            type={hasOne && isOn ? 'primary' : 'text'}
            aria-label="Look"
            aria-pressed={hasOne && isOn}
          >
            <Sunset size={15} />
          </Button>
        </KeyTip>
      </span>
    </Popover>
  );
}
