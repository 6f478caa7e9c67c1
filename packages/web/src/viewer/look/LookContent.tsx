import { Segmented, Switch } from 'antd';
import { useState } from 'react';
import { isLookOn, lookThere, setViewTable } from '../../commands/looks.ts';
import { edit } from '../../editing/editing.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { LookNumbers } from './LookNumbers.tsx';
import { LookOfShot } from './LookOfShot.tsx';
import { TableRow } from './TableRow.tsx';
import { useLook } from './useLook.ts';

interface Props {
  inHand: InHand;
  hasOne: boolean;
  onTurn: () => void;
}
/** The look of all shots, or of the one in hand: on or off, its CDL, curves and table; and the viewing table. */
export default function LookContent({ inHand, hasOne, onTurn }: Props) {
  const { document, shot } = inHand;
  const { id: projectId, viewTable } = document.project.value;
  const [isOfShot, setOfShot] = useState(false);
  const whose = isOfShot && shot ? shot.id : 'project';
  const look = useLook(document, whose);
  return (
    <div className="look-menu">
      <div className="row">
        <span className="grow">Judge through looks</span>
        <Switch
          size="small"
          aria-label="Look on"
          disabled={!hasOne}
          checked={hasOne && isLookOn(document)}
          onChange={onTurn}
        />
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
}
