import { Button, Dropdown, type MenuProps } from 'antd';
import type { Person, ProjectDocument } from '@mellow/contract';
import { useAppDispatch } from '../app/store.ts';
import { useMeQuery, useSignOutMutation } from '../data/people.ts';
import { dialogOpened } from '../view/dialogSlice.ts';
import { initials, KIND_TEXT } from './roleText.ts';
import './people.css';

interface Props {
  /** The project that is open. */
  project?: Pick<ProjectDocument, 'project' | 'role'>;
}
/** Who is signed in, and what they may do with people; nothing where nobody signs in. */
export function AccountMenu({ project }: Props) {
  const person = useMeQuery().data?.person;
  return person ? <Menu person={person} {...(project && { project })} /> : null;
}

function Menu({ person, project }: Props & { person: Person }) {
  const dispatch = useAppDispatch();
  const [signOut] = useSignOutMutation();
  const members = () => {
    const { id, name } = project!.project.value;
    dispatch(dialogOpened({ kind: 'members', projectId: id, name, role: project!.role }));
  };
  const acts: Record<string, () => void> = {
    members,
    people: () => dispatch(dialogOpened({ kind: 'people' })),
    out: () => void signOut().then(() => location.assign('/')),
  };
  const items: MenuProps['items'] = [
    { key: 'who', type: 'group', label: `${person.name} · ${KIND_TEXT[person.kind]}` },
    ...(project ? [{ key: 'members', label: 'People of this project …' }] : []),
    ...(person.kind === 'admin' ? [{ key: 'people', label: 'Accounts …' }] : []),
    { type: 'divider' },
    { key: 'out', label: 'Sign out' },
  ];
  return (
    <Dropdown trigger={['click']} menu={{ items, onClick: ({ key }) => acts[key]?.() }}>
      <Button size="small" type="text" aria-label={`Account of ${person.name}`}>
        <span className="initials">{initials(person.name)}</span>
      </Button>
    </Dropdown>
  );
}
