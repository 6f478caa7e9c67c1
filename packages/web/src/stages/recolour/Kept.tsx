import { Button, Dropdown, Input } from 'antd';
import { EllipsisVertical } from 'lucide-react';
import { useState } from 'react';
import type { ReactNode } from 'react';
import type { RecipeVersion, Still } from '@mellow/contract';
import {
  dropStill,
  dropVersion,
  keepStill,
  keepVersion,
  takeFromStill,
  takeVersion,
  versionsOf,
} from '../../commands/judging.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import type { Change } from '../../editing/change.ts';
import { documentOf, edit } from '../../editing/editing.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { Fold } from '../../ui/Fold.tsx';
import { usePlace } from '../../inhand/useInHand.ts';
import { lookChanged, type Against } from '../../view/lookSlice.ts';
import { moved } from '../../view/whereSlice.ts';

/** What has been kept to come back to: versions of the recipe, and stills. */
export function Kept({ inHand }: { inHand: InHand }) {
  const { document, recipe } = inHand;
  const place = usePlace(inHand);
  const dispatch = useAppDispatch();
  const compare = useAppSelector((s) => s.look.compare);
  const projectId = document.project.value.id;
  const now = () => documentOf(projectId) ?? document;
  const put = (change: Change) => edit(projectId, change);
  const against = (other: Against) =>
    dispatch(lookChanged({ against: other, compare: compare === 'off' ? 'wipe' : compare }));
  const goTo = ({ shotId, frame, colourwayId }: Still) => {
    dispatch(moved({ shotId, frame, ...(colourwayId && { colourwayId }) }));
  };
  const versionActs = (version: RecipeVersion): [string, () => void][] => [
    ['Take it', () => put(takeVersion(now(), place, version))],
    ['Compare with it', () => against({ kind: 'version', id: version.id })],
    ['Remove', () => put(dropVersion(version))],
  ];
  const stillActs = (still: Still): [string, () => void][] => [
    ['Compare with it', () => against({ kind: 'still', id: still.id })],
    ['Go to its frame', () => goTo(still)],
    ['Take its recipe', () => put(takeFromStill(now(), place, still))],
    ['Remove', () => put(dropStill(still))],
  ];
  const [versions, stills] = [versionsOf(document, place).length, document.stills.length];
  const says = versions + stills > 0 ? `${versions} and ${stills}` : undefined;
  return (
    <Fold title="Versions and stills" says={says} label="Kept">
      <h3>Versions of the recipe</h3>
      <Keep what="version" isPossible={recipe !== undefined} onKeep={(name) => put(keepVersion(now(), place, name))} />
      {versionsOf(document, place).map((version) => (
        <Line key={version.id} name={version.name} acts={versionActs(version)} />
      ))}
      <h3>Stills</h3>
      <Keep what="still" isPossible onKeep={(name) => put(keepStill(now(), place, name))} />
      {document.stills.map(({ value: still }) => (
        <Line key={still.id} name={still.name} acts={stillActs(still)}>
          <span className="quiet">
            {document.shots.find((s) => s.value.id === still.shotId)?.value.name}, frame {still.frame}
          </span>
        </Line>
      ))}
    </Fold>
  );
}

interface KeepProps {
  what: string;
  isPossible: boolean;
  onKeep: (name: string) => void;
}
function Keep({ what, isPossible, onKeep }: KeepProps) {
  const [name, setName] = useState('');
  const keep = () => {
    onKeep(name);
    setName('');
  };
  return (
    <div className="row">
      <Input
        size="small"
        aria-label={`Name of the ${what}`}
        placeholder={`Name of the ${what}`}
        maxLength={120}
        value={name}
        disabled={!isPossible}
        onChange={(e) => setName(e.target.value)}
        onPressEnter={keep}
      />
      <Button size="small" disabled={!isPossible} onClick={keep}>
        Keep {what}
      </Button>
    </div>
  );
}

interface LineProps {
  name: string;
  acts: readonly [label: string, act: () => void][];
  children?: ReactNode;
}
function Line({ name, acts, children }: LineProps) {
  const items = acts.map(([label]) => ({ key: label, label }));
  return (
    <div className="row">
      <span className="grow shorten">
        {name} {children}
      </span>
      <Dropdown
        trigger={['click']}
        menu={{ items, onClick: ({ key }) => acts.find(([label]) => label === key)?.[1]() }}
      >
        <Button size="small" type="text" aria-label={`More of ${name}`}>
          <EllipsisVertical size={14} />
        </Button>
      </Dropdown>
    </div>
  );
}
