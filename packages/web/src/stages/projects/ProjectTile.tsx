import { Button, Dropdown, type MenuProps } from 'antd';
import { EllipsisVertical } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { Link } from 'react-router';
import type { ProjectCard, ProjectState } from '@mellow/contract';
import { useNotices } from '../../app/Notices.tsx';
import { useAppDispatch } from '../../app/store.ts';
import { useDuplicateProjectMutation, useRenameProjectMutation, useSetProjectStateMutation } from '../../data/api.ts';
import { useMeQuery } from '../../data/people.ts';
import { addressOf, problemText } from '../../data/requests.ts';
import { frameUrl } from '../../engine/frameUrl.ts';
import { AskName } from '../../ui/AskName.tsx';
import { saveFrom } from '../../ui/saveFile.ts';
import { dialogOpened } from '../../view/dialogSlice.ts';
import { SwatchPair } from '../../ui/SwatchPair.tsx';

const DeleteProjectDialog = lazy(() => import('./DeleteProjectDialog.tsx'));

/** A project as one recognises it: a picture, its name, its pieces with their colours. */
export function ProjectTile({ project }: { project: ProjectCard }) {
  const { id, name, shots, updatedAt, poster, pieces } = project;
  const { menu, dialog } = useProjectMenu(project);
  return (
    <Dropdown trigger={['contextMenu']} menu={menu}>
      <article className="project-tile">
        <Link to={`/projects/${id}/${shots > 0 ? 'isolate' : 'shots'}`} aria-label={name}>
          <span className="poster">
            {poster && (
              <img
                alt=""
                src={frameUrl(poster.mediaId, poster.frame)}
                onError={(e) => e.currentTarget.style.setProperty('visibility', 'hidden')}
              />
            )}
          </span>
          <strong className="shorten">{name}</strong>
        </Link>
        <div className="row">
          <span className="quiet grow">
            {shots} {shots === 1 ? 'shot' : 'shots'} · edited {new Date(updatedAt).toLocaleString()}
          </span>
          <Dropdown trigger={['click']} menu={menu}>
            <Button size="small" type="text" aria-label={`More of ${name}`}>
              <EllipsisVertical size={14} />
            </Button>
          </Dropdown>
        </div>
        <div className="tile-pieces">
          {pieces.map((piece) => (
            <span key={piece.name} className="row">
              <SwatchPair from={piece.from} to={piece.to} size={22} />
              <span className="shorten">{piece.name}</span>
            </span>
          ))}
          {pieces.length === 0 && <span className="quiet">No piece yet</span>}
        </div>
        {dialog}
      </article>
    </Dropdown>
  );
}

const DID: Record<ProjectState, string> = { open: 'is open again', archived: 'is archived', removed: 'was removed' };

function useProjectMenu({ id: projectId, name, state, role }: ProjectCard): {
  menu: MenuProps;
  dialog: React.ReactNode;
} {
  const { message } = useNotices();
  const dispatch = useAppDispatch();
  const { data: me } = useMeQuery();
  const isAsked = me?.isAsked ?? false;
  const isGuest = me?.person?.kind === 'guest';
  const [rename] = useRenameProjectMutation();
  const [duplicate] = useDuplicateProjectMutation();
  const [setState] = useSetProjectStateMutation();
  const [isNaming, setNaming] = useState(false);
  const [isDeleting, setDeleting] = useState(false);
  const told = ({ error }: { error?: unknown }) => error && void message.error(problemText(error));
  const put = async (next: ProjectState) => {
    const answer = await setState({ projectId, state: next });
    if (answer.error) return void told(answer);
    const key = `${projectId} ${next}`;
    const back = async () => {
      message.destroy(key);
      told(await setState({ projectId, state }));
    };
    const content = (
      <>
        {name} {DID[next]}.{' '}
        <Button size="small" onClick={() => void back()}>
          Undo
        </Button>
      </>
    );
    void message.open({ key, content, duration: 8 });
  };
  const acts: Record<string, () => void> = {
    rename: () => setNaming(true),
    people: () => dispatch(dialogOpened({ kind: 'members', projectId, name, role })),
    duplicate: () => void duplicate(projectId).then(told),
    whole: () => saveFrom(addressOf('saveArchive', { projectId }, { footage: 'included' })),
    named: () => saveFrom(addressOf('saveArchive', { projectId }, { footage: 'named' })),
    open: () => void put('open'),
    archived: () => void put('archived'),
    removed: () => void put('removed'),
    deleted: () => setDeleting(true),
  };
  const items = [
    { key: 'rename', label: 'Rename …' },
    { key: 'people', label: 'People …' },
    { key: 'duplicate', label: 'Duplicate' },
    { key: 'whole', label: 'Save to a zip, with its footage' },
    { key: 'named', label: 'Save to a zip, without footage' },
    { key: 'open', label: 'Open again' },
    { key: 'archived', label: 'Archive' },
    { key: 'removed', label: 'Remove' },
    { key: 'deleted', label: 'Delete for good …', danger: true },
  ].filter(({ key }) => {
    if (key === 'people') return isAsked;
    if (key === 'deleted' && (isGuest || state !== 'removed')) return false;
    return role === 'editor' && key !== state;
  });
  const dialog = isDeleting ? (
    <Suspense fallback={null}>
      <DeleteProjectDialog project={{ id: projectId, name }} onClose={() => setDeleting(false)} />
    </Suspense>
  ) : (
    isNaming && (
      <AskName
        title={`Rename ${name}`}
        label="Project name"
        was={name}
        onName={(next) => void rename({ projectId, name: next }).then(told)}
        onClose={() => setNaming(false)}
      />
    )
  );
  return { menu: { items, onClick: ({ key }) => acts[key]!() }, dialog };
}
