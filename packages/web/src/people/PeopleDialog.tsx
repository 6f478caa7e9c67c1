import { Button, Form, Input, Modal, Select } from 'antd';
import { useState } from 'react';
import { PersonKind, type BodyOf, type Invitation, type Person } from '@mellow/contract';
import {
  useAddPersonMutation,
  useChangePersonMutation,
  useInviteMutation,
  useMeQuery,
  usePeopleQuery,
} from '../data/people.ts';
import { problemText } from '../data/requests.ts';
import { InvitationLink } from './InvitationLink.tsx';
import { KIND_MEANS, KIND_TEXT } from './roleText.ts';
import { useAnswered } from './useAnswered.ts';
import './people.css';

const KINDS = PersonKind.options.map((value) => ({ value, label: KIND_TEXT[value], title: KIND_MEANS[value] }));

/** The accounts of the house: who there is, what they are, and the links by which they come in. */
export default function PeopleDialog({ onClose }: { onClose: () => void }) {
  const { data: people, error } = usePeopleQuery();
  const [invitation, setInvitation] = useState<Invitation>();
  return (
    <Modal open title="Accounts" width={640} footer={null} onCancel={onClose}>
      {error ? <p>{problemText(error)}</p> : null}
      {people?.map((person) => (
        <PersonRow key={person.id} person={person} onInvited={setInvitation} />
      ))}
      <AddPerson onInvited={setInvitation} />
      {invitation && <InvitationLink invitation={invitation} />}
    </Modal>
  );
}

function PersonRow({ person, onInvited }: { person: Person; onInvited: (invitation: Invitation) => void }) {
  const { id: personId, name, login, kind, isActive, isReady } = person;
  const [change] = useChangePersonMutation();
  const [invite] = useInviteMutation();
  const answered = useAnswered();
  const isOneself = useMeQuery().data?.person?.id === personId;
  const says = isActive ? !isReady && 'has not come in yet' : 'may not come in';
  const anew = async () => {
    const made = await answered(invite(personId));
    if (made) onInvited(made);
  };
  return (
    <div className="people-row">
      <span className="shorten">
        {name}{' '}
        <span className="quiet">
          {login}
          {says && ` · ${says}`}
        </span>
      </span>
      <Select
        size="small"
        aria-label={`What ${name} is`}
        value={kind}
        options={KINDS}
        disabled={isOneself}
        onChange={(next) => void answered(change({ personId, kind: next }))}
      />
      <span className="row">
        <Button
          size="small"
          title={isReady ? 'For a password that was lost' : 'A link to come in by'}
          disabled={!isActive}
          onClick={() => void anew()}
        >
          Link
        </Button>
        <Button
          size="small"
          disabled={isOneself}
          onClick={() => void answered(change({ personId, isActive: !isActive }))}
        >
          {isActive ? 'Shut out' : 'Let in'}
        </Button>
      </span>
    </div>
  );
}

function AddPerson({ onInvited }: { onInvited: (invitation: Invitation) => void }) {
  const [add, { isLoading }] = useAddPersonMutation();
  const [form] = Form.useForm<BodyOf<'addPerson'>>();
  const answered = useAnswered();
  const finish = async (person: BodyOf<'addPerson'>) => {
    const made = await answered(add(person));
    if (!made) return;
    form.resetFields();
    onInvited(made);
  };
  return (
    <Form form={form} disabled={isLoading} initialValues={{ kind: 'guest' }} onFinish={(p) => void finish(p)}>
      <div className="people-add">
        <Form.Item name="name" rules={[{ required: true, message: 'A name' }]}>
          <Input aria-label="Name of somebody new" placeholder="Name" maxLength={120} />
        </Form.Item>
        <Form.Item name="login" rules={[{ required: true, message: 'What they sign in with' }]}>
          <Input aria-label="E-mail address or short name" placeholder="E-mail address or short name" />
        </Form.Item>
        <Form.Item name="kind">
          <Select aria-label="What somebody new is" options={KINDS} />
        </Form.Item>
        <Button type="primary" htmlType="submit">
          Add
        </Button>
      </div>
    </Form>
  );
}
