import { lazy, memo, useEffect, type ComponentType } from 'react';
import type { ProjectDocument } from '@mellow/contract';
import { TopBar } from '../head/TopBar.tsx';
import type { InHand } from '../inhand/inHand.ts';
import { useDraftedCalmly, useInHand } from '../inhand/useInHand.ts';
import { Ribbon } from '../ribbon/Ribbon.tsx';
import { Dialogs } from './Dialogs.tsx';
import type { StageName } from './stages.ts';

type Page = ComponentType<{ inHand: InHand }>;
const PAGES: Record<StageName, Page> = {
  shots: lazy(() => import('../stages/shots/ShotsStage.tsx')),
  isolate: lazy(() => import('../stages/isolate/IsolateStage.tsx')),
  recolour: lazy(() => import('../stages/recolour/RecolourStage.tsx')),
  lineup: lazy(() => import('../stages/lineup/LineupStage.tsx')),
  deliver: lazy(() => import('../stages/deliver/DeliverStage.tsx')),
};

interface Props {
  document: ProjectDocument;
  stage: StageName;
}
interface WorkspaceProps extends Props {
  /** Called when all of it is there. */
  onThere: () => void;
}
/** The head, the ribbon and the stage one works at. */
export default function Workspace({ document, stage, onThere }: WorkspaceProps) {
  useEffect(onThere, [onThere]);
  return (
    <>
      <Surroundings document={document} stage={stage} />
      <main className="work">
        <AtHand document={document} Page={PAGES[stage]} />
      </main>
    </>
  );
}

/** Shows what is saved: it stands still while a hand moves. */
const Surroundings = memo(function Surroundings({ document, stage }: Props) {
  const inHand = useInHand(document);
  return (
    <>
      <TopBar inHand={inHand} stage={stage} />
      <Ribbon inHand={inHand} />
      <Dialogs inHand={inHand} />
    </>
  );
});

/** The stage shows what the hand that moves is making: its picture with every move, what stands round it calmly. */
function AtHand({ document, Page }: { document: ProjectDocument; Page: Page }) {
  return <Page inHand={useInHand(useDraftedCalmly(document))} />;
}
