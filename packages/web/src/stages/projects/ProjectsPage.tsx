import { App, Button, Input, Modal } from 'antd';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { Dialogs } from '../../app/Dialogs.tsx';
import { useCreateProjectMutation, useListProjectsQuery } from '../../data/api.ts';
import { problemText } from '../../data/requests.ts';
import { SwatchPair } from '../../ui/SwatchPair.tsx';

export default function ProjectsPage() {
  const { data: projects, error } = useListProjectsQuery(undefined, { refetchOnMountOrArgChange: true });
  const [create] = useCreateProjectMutation();
  const [name, setName] = useState<string>();
  const { message } = App.useApp();
  const navigate = useNavigate();
  const make = async () => {
    const answer = await create(name!.trim());
    if (answer.data) void navigate(`/projects/${answer.data.id}/shots`);
    else void message.error(problemText(answer.error));
  };
  return (
    <>
      <header className="topbar">
        <SwatchPair from="#8a8a8a" to="#d8d8d8" size={24} />
        <strong>Mellow Hue</strong>
        <span className="spring" />
        <Button type="primary" icon={<Plus size={15} />} onClick={() => setName('')}>
          New project
        </Button>
      </header>
      <main className="page">
        {error ? <div className="empty">{problemText(error)}</div> : null}
        {projects?.length === 0 && (
          <div className="empty">
            No project yet. Make one, bring its shots in, and name the piece that must change its colour.
          </div>
        )}
        <div className="cards">
          {projects?.map((p) => (
            <button
              key={p.id}
              type="button"
              className="project-card"
              onClick={() => void navigate(`/projects/${p.id}/isolate`)}
            >
              <strong style={{ fontSize: 16 }}>{p.name}</strong>
              <span className="quiet">
                {p.shots} {p.shots === 1 ? 'shot' : 'shots'} · edited {new Date(p.updatedAt).toLocaleString()}
              </span>
              {p.pieces.map((piece) => (
                <span key={piece.name} className="row">
                  <SwatchPair from={piece.from} to={piece.to} size={28} />
                  {piece.name}
                </span>
              ))}
              {p.pieces.length === 0 && <span className="quiet">No piece yet</span>}
            </button>
          ))}
        </div>
      </main>
      <Dialogs />
      <Modal
        title="New project"
        open={name !== undefined}
        okText="Create"
        okButtonProps={{ disabled: !name?.trim() }}
        onOk={() => void make()}
        onCancel={() => setName(undefined)}
      >
        <Input
          autoFocus
          aria-label="Project name"
          maxLength={120}
          value={name}
          onChange={(e) => setName(e.target.value)}
          onPressEnter={() => name?.trim() && void make()}
        />
      </Modal>
    </>
  );
}
