import { Tooltip } from 'antd';
import type { InHand } from '../inhand/inHand.ts';
import { initials } from './roleText.ts';
import { useOthers } from './useOthers.ts';
import { useTellWhere } from './useTellWhere.ts';
import './people.css';

/** Who else has the project open, and at which shot. */
export function Present({ inHand: { document, shot } }: { inHand: InHand }) {
  useTellWhere(document.project.value.id, shot?.id ?? null);
  const others = useOthers();
  const nameOf = (id: string) => document.shots.find((s) => s.value.id === id)?.value.name;
  return others.map(({ personId, name, shotIds }) => {
    const at = shotIds.flatMap((id) => nameOf(id) ?? []);
    const says = at.length > 0 ? `${name} is at ${at.join(', ')}` : `${name} has this project open`;
    return (
      <Tooltip key={personId} title={says}>
        <span
          role="img"
          className={`initials ${shot && shotIds.includes(shot.id) ? '' : 'elsewhere'}`}
          aria-label={says}
        >
          {initials(name)}
        </span>
      </Tooltip>
    );
  });
}
