import { Link, NavLink, useNavigate } from 'react-router';
import type { InHand } from '../inhand/inHand.ts';
import { STAGES, type StageName } from '../app/stages.ts';
import { useCommands } from '../keys/useCommands.ts';
import type { CommandId } from '../keys/keyTable.ts';
import { useRoving } from '../ui/useRoving.ts';
import { SwatchPair } from '../ui/SwatchPair.tsx';
import { AccountMenu } from '../people/AccountMenu.tsx';
import { Present } from '../people/Present.tsx';
import { RoleNote } from '../people/RoleNote.tsx';
import { AutoKeyNote } from './AutoKeyNote.tsx';
import { ColourwaySwatches } from './ColourwaySwatches.tsx';
import { HelpMenu } from './HelpMenu.tsx';
import { HistoryButtons } from './HistoryButtons.tsx';
import { PieceChips } from './PieceChips.tsx';
import { RoomMenu } from './RoomMenu.tsx';
import { SavingNote } from './SavingNote.tsx';
import { Tray } from './Tray.tsx';
import { useShotSteps } from './useShotSteps.ts';

const TO_STAGE: Record<StageName, CommandId> = {
  shots: 'toShots',
  isolate: 'toIsolate',
  recolour: 'toRecolour',
  lineup: 'toLineup',
  deliver: 'toDeliver',
};

/** What is in hand, the stages, what is under way, how saving stands and the history. */
export function TopBar({ inHand, stage }: { inHand: InHand; stage: StageName }) {
  const { id: projectId, name } = inHand.document.project.value;
  const navigate = useNavigate();
  const group = useRoving<HTMLElement>();
  const stages = Object.entries(STAGES) as [StageName, string][];
  useCommands({
    ...Object.fromEntries(
      stages.map(([key]) => [
        TO_STAGE[key],
        { run: () => void navigate(`/projects/${projectId}/${key}`), isOn: key === stage },
      ]),
    ),
    toProjects: { run: () => void navigate('/') },
  });
  useShotSteps(inHand);
  return (
    <header className="topbar">
      <Link to="/" aria-label="All projects">
        <SwatchPair from="#8a8a8a" to="#d8d8d8" size={24} />
      </Link>
      <strong className="shorten project-name" title={name}>
        {name}
      </strong>
      <PieceChips inHand={inHand} />
      <ColourwaySwatches inHand={inHand} />
      <nav ref={group} className="stages" aria-label="Stages">
        {stages.map(([key, label]) => (
          <NavLink key={key} to={`/projects/${projectId}/${key}`}>
            {label}
          </NavLink>
        ))}
      </nav>
      <span className="head-end">
        <RoleNote role={inHand.document.role} />
        <AutoKeyNote />
        <Present inHand={inHand} />
        <Tray projectId={projectId} />
        <SavingNote />
        <HistoryButtons projectId={projectId} history={inHand.document.history} />
        <RoomMenu />
        <HelpMenu />
        <AccountMenu project={inHand.document} />
      </span>
    </header>
  );
}
