import { lazy } from 'react';
import { Link } from 'react-router';
import type { ProjectDocument } from '@mellow/contract';
import { problemText } from '../data/requests.ts';
import { useInHand } from '../inhand/useInHand.ts';
import { useOpenProject } from '../inhand/useOpenProject.ts';
import { Ribbon } from '../ribbon/Ribbon.tsx';
import { TopBar } from '../head/TopBar.tsx';
import { Dialogs } from './Dialogs.tsx';
import { useStage, type StageName } from './stages.ts';

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
  const stage = useStage();
  const inHand = useInHand(document);
  const Page = PAGES[stage];
  return (
    <>
      <TopBar inHand={inHand} stage={stage} />
      <Ribbon inHand={inHand} />
      <main className="work">
        <Page inHand={inHand} />
      </main>
      <Dialogs inHand={inHand} />
    </>
  );
}
