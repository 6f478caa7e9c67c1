import { Button, Segmented } from 'antd';
import { HardDrive, Plus } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { useNavigate } from 'react-router';
import type { ProjectId, ProjectState } from '@mellow/contract';
import { useNotices } from '../../app/Notices.tsx';
import { Dialogs } from '../../app/Dialogs.tsx';
import { useAppDispatch } from '../../app/store.ts';
import { useCreateProjectMutation, useListProjectsQuery } from '../../data/api.ts';
import { problemText } from '../../data/requests.ts';
import { HelpMenu } from '../../head/HelpMenu.tsx';
import { RoomMenu } from '../../head/RoomMenu.tsx';
import { SwatchPair } from '../../ui/SwatchPair.tsx';
import { AccountMenu } from '../../people/AccountMenu.tsx';
import { useMeQuery } from '../../data/people.ts';
import { dialogOpened } from '../../view/dialogSlice.ts';
import { OpenZip } from './OpenZip.tsx';
import { listed, ORDERS, type Order } from './listed.ts';
import { ProjectTile } from './ProjectTile.tsx';

// nobody needs it on the way to a picture
const NewProjectDialog = lazy(() => import('./NewProjectDialog.tsx'));

const STATES: Record<ProjectState, string> = { open: 'Open', archived: 'Archived', removed: 'Removed' };
const NONE: Record<ProjectState, string> = {
  open: 'No project yet. Make one, bring its shots in, and name the piece that must change its colour.',
  archived: 'No project is archived.',
  removed: 'No project was removed. What is removed stays here, to be brought back or deleted.',
};

/** To whom projects are given. */
const NONE_GIVEN = 'You were given no project yet. Ask whoever works on it.';

/** The start page: all projects, found by name or piece. */
export default function ProjectsPage() {
  const { data: projects, error } = useListProjectsQuery(undefined, { refetchOnMountOrArgChange: true });
  const [create] = useCreateProjectMutation();
  const { data: me } = useMeQuery();
  const isGuest = me?.person?.kind === 'guest';
  const [isNaming, setNaming] = useState(false);
  const [search, setSearch] = useState('');
  const [order, setOrder] = useState<Order>('edited');
  const [state, setState] = useState<ProjectState>('open');
  const { message } = useNotices();
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const make = async (name: string, piecesOf: ProjectId | undefined) => {
    const answer = await create({ name, ...(piecesOf && { piecesOf }) });
    if (answer.data) void navigate(`/projects/${answer.data.id}/shots`);
    else void message.error(problemText(answer.error));
  };
  const none = isGuest && state === 'open' ? NONE_GIVEN : NONE[state];
  const shown = projects && listed(projects, { state, search, order });
  return (
    <>
      <header className="topbar">
        <SwatchPair from="#8a8a8a" to="#d8d8d8" size={24} />
        <strong>Mellow Hue</strong>
        <span className="spring" />
        {/* the browser's own: what a field with everything to it takes would be loaded before the first picture */}
        <input
          type="search"
          className="search"
          aria-label="Search projects"
          placeholder="Search by name or piece"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
        />
        <Segmented
          aria-label="Order of projects"
          value={order}
          options={Object.entries(ORDERS).map(([value, label]) => ({ value: value as Order, label }))}
          onChange={setOrder}
        />
        <Segmented
          aria-label="Which projects"
          options={Object.entries(STATES).map(([value, label]) => ({ value: value as ProjectState, label }))}
          value={state}
          onChange={setState}
        />
        {!isGuest && (
          <>
            <OpenZip />
            <Button type="primary" icon={<Plus size={15} />} onClick={() => setNaming(true)}>
              New project
            </Button>
          </>
        )}
        <RoomMenu />
        <HelpMenu />
        <AccountMenu />
      </header>
      <main className="page">
        {error ? <div className="empty">{problemText(error)}</div> : null}
        {shown?.length === 0 && <div className="empty">{search ? `No project is found by “${search}”.` : none}</div>}
        <div className="cards">
          {projects === undefined && !error && <Waiting />}
          {shown?.map((project) => (
            <ProjectTile key={project.id} project={project} />
          ))}
        </div>
        {/* not before the tiles: they would push it away from under the pointer */}
        {!isGuest && (projects || error) && (
          <Button
            size="small"
            icon={<HardDrive size={14} />}
            style={{ marginTop: 20 }}
            onClick={() => dispatch(dialogOpened({ kind: 'space' }))}
          >
            Space on the disk
          </Button>
        )}
      </main>
      <Dialogs />
      {isNaming && (
        <Suspense fallback={null}>
          <NewProjectDialog
            others={projects ?? []}
            onMake={(name, piecesOf) => void make(name, piecesOf)}
            onClose={() => setNaming(false)}
          />
        </Suspense>
      )}
    </>
  );
}

/** The places of projects that are still to come. */
const Waiting = () => [0, 1, 2].map((i) => <div key={i} className="project-tile skeleton" />);
