import { lazy } from 'react';
import { Link, useParams } from 'react-router';
import type { ProjectDocument } from '@mellow/contract';
import { problemText } from '../data/requests.ts';
import { useInHand } from '../inhand/useInHand.ts';
import { useOpenProject } from '../inhand/useOpenProject.ts';
import { Ribbon } from '../ribbon/Ribbon.tsx';
import { isStage, type StageName } from './stages.ts';
import { TopBar } from './TopBar.tsx';

const PAGES = {
  shots: lazy(() => import('../stages/shots/ShotsStage.tsx')),
  isolate: lazy(() => import('../stages/isolate/IsolateStage.tsx')),
  recolour: lazy(() => import('../stages/recolour/RecolourStage.tsx')),
  lineup: lazy(() => import('../stages/lineup/LineupStage.tsx')),
  deliver: lazy(() => import('../stages/deliver/DeliverStage.tsx')),
} satisfies Record<StageName, unknown>;

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
  const { stage = 'shots' } = useParams();
  const inHand = useInHand(document);
  const Page = PAGES[isStage(stage) ? stage : 'shots'];
  return (
    <>
      <TopBar inHand={inHand} />
      <Ribbon inHand={inHand} />
      <main className="work">
        <Page inHand={inHand} />
      </main>
    </>
  );
}
