import { Button, Modal, Select } from 'antd';
import { useState } from 'react';
import { Role, type Membership, type PersonId, type ProjectId } from '@mellow/contract';
import { useGiveRoleMutation, useMembersQuery, useMeQuery, usePeopleQuery } from '../data/people.ts';
import { problemText } from '../data/requests.ts';
import { ROLE_MEANS, ROLE_TEXT } from './roleText.ts';
import { useAnswered } from './useAnswered.ts';
import './people.css';

const ROLES = Role.options.toReversed().map((value) => ({ value, label: ROLE_TEXT[value], title: ROLE_MEANS[value] }));

interface Props {
  project: { projectId: ProjectId; name: string; role: Role };
  onClose: () => void;
}
/** Who works on a project, and as what; its editors change that. */
export default function MembersDialog({ project: { projectId, name, role }, onClose }: Props) {
  const { data: members = [], error } = useMembersQuery(projectId);
  const [give] = useGiveRoleMutation();
  const answered = useAnswered();
  const mayGive = role === 'editor';
  const set = (personId: PersonId, next: Role | null) => void answered(give({ projectId, personId, role: next }));
  return (
    <Modal open title={`People of ${name}`} width={520} footer={null} onCancel={onClose}>
      {error ? <p>{problemText(error)}</p> : null}
      {members.length === 0 && !error && <p className="quiet">Nobody but the admins, so far.</p>}
      {members.map(({ person, role: has }) => (
        <div key={person.id} className="people-row in-project">
          <span className="shorten">
            {person.name} <span className="quiet">{person.login}</span>
          </span>
          <Select
            size="small"
            aria-label={`Role of ${person.name}`}
            disabled={!mayGive}
            value={has}
            options={ROLES}
            onChange={(next) => set(person.id, next)}
          />
          {mayGive && (
            <Button size="small" aria-label={`Take ${person.name} out`} onClick={() => set(person.id, null)}>
              Take out
            </Button>
          )}
        </div>
      ))}
      {mayGive && <AddMember members={members} onAdd={set} />}
    </Modal>
  );
}

interface AddProps {
  members: readonly Membership[];
  onAdd: (personId: PersonId, role: Role) => void;
}
/** Guests do not see who is in the house: they add nobody. */
function AddMember({ members, onAdd }: AddProps) {
  const isGuest = useMeQuery().data?.person?.kind === 'guest';
  const { data: people = [] } = usePeopleQuery(undefined, { skip: isGuest });
  const [personId, setPersonId] = useState<PersonId | null>(null);
  const [role, setRole] = useState<Role>('reviewer');
  if (isGuest) return null;
  const others = people.filter(({ id, isActive, kind }) => isActive && kind !== 'admin' && !isIn(members, id));
  return (
    <div className="people-add in-project">
      <Select
        aria-label="Somebody to add"
        placeholder="Add somebody"
        showSearch={{ optionFilterProp: 'label' }}
        value={personId}
        options={others.map(({ id, name, login }) => ({ value: id, label: `${name} · ${login}` }))}
        onChange={setPersonId}
      />
      <Select aria-label="As what" value={role} options={ROLES} onChange={setRole} />
      <Button
        type="primary"
        disabled={!personId}
        onClick={() => {
          onAdd(personId!, role);
          setPersonId(null);
        }}
      >
        Add
      </Button>
    </div>
  );
}
const isIn = (members: readonly Membership[], id: string): boolean => members.some(({ person }) => person.id === id);
