import { initials } from './roleText.ts';
import { useOthers } from './useOthers.ts';

/** Who else is at a shot. */
export function AtShot({ shotId }: { shotId: string }) {
  const here = useOthers().filter((other) => other.shotIds.includes(shotId));
  return here.map(({ personId, name }) => (
    <span key={personId} className="initials at-shot" title={`${name} is at this shot`}>
      {initials(name)}
    </span>
  ));
}
