import { lazy, startTransition, useCallback, useState } from 'react';
import { Link } from 'react-router';
import type { ProjectDocument } from '@mellow/contract';
import { problemText } from '../data/requests.ts';
import { useOpenProject } from '../inhand/useOpenProject.ts';
import { useEarlyKeys } from '../keys/useEarlyKeys.ts';
import { FirstPicture } from './FirstPicture.tsx';
import { useStage, type StageName } from './stages.ts';

const Workspace = lazy(() => import('./Workspace.tsx'));
/** Stages at which one looks at a picture: it comes first. */
const LOOKS: ReadonlySet<StageName> = new Set(['isolate', 'recolour']);

export default function ProjectFrame() {
  const { document, error } = useOpenProject();
  const early = useEarlyKeys();
  if (error)
    return (
      <div className="empty">
        <p>{problemText(error)}</p>
        <Link to="/">All projects</Link>
      </div>
    );
  if (!document) return <div className="empty">Opening the project …</div>;
  return <Opened key={document.project.value.id} document={document} onThere={early} />;
}

interface Props {
  document: ProjectDocument;
  /** Called when all that hears keys is there. */
  onThere: () => void;
}
function Opened({ document, onThere }: Props) {
  const stage = useStage();
  const [isSeen, setSeen] = useState(!LOOKS.has(stage));
  // as a transition the picture stays until all that comes round it is loaded
  const seen = useCallback(() => startTransition(() => setSeen(true)), []);
  if (!isSeen) return <FirstPicture document={document} onSeen={seen} />;
  return <Workspace document={document} stage={stage} onThere={onThere} />;
}
