import { lazy, startTransition, useCallback, useState } from 'react';
import { Link } from 'react-router';
import type { ProjectDocument } from '@mellow/contract';
import { problemText } from '../data/requests.ts';
import { useOpenProject } from '../inhand/useOpenProject.ts';
import { FirstPicture } from './FirstPicture.tsx';
import { useStage, type StageName } from './stages.ts';

const Workspace = lazy(() => import('./Workspace.tsx'));
/** Stages at which one looks at a picture: it comes first. */
const LOOKS: ReadonlySet<StageName> = new Set(['isolate', 'recolour']);

export default function ProjectFrame() {
  const { document, error } = useOpenProject();
  if (error)
    return (
      <div className="empty">
        <p>{problemText(error)}</p>
        <Link to="/">All projects</Link>
      </div>
    );
  if (!document) return <div className="empty">Opening the project …</div>;
  return <Opened key={document.project.value.id} document={document} />;
}

function Opened({ document }: { document: ProjectDocument }) {
  const stage = useStage();
  const [isSeen, setSeen] = useState(!LOOKS.has(stage));
  // as a transition the picture stays until all that comes round it is loaded
  const seen = useCallback(() => startTransition(() => setSeen(true)), []);
  return isSeen ? <Workspace document={document} stage={stage} /> : <FirstPicture document={document} onSeen={seen} />;
}
