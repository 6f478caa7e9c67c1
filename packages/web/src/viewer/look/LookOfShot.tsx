import { Button, Select } from 'antd';
import { useState } from 'react';
import type { ProjectDocument, ShotId } from '@mellow/contract';
import { dropOwnLook, hasOwnLook, sendLook } from '../../commands/looks.ts';
import { edit } from '../../editing/editing.ts';

interface Props {
  document: ProjectDocument;
  shotId: ShotId;
  now: () => ProjectDocument;
}
/** Whether a shot has a look of its own, and to which others it goes. */
export function LookOfShot({ document, shotId, now }: Props) {
  const [to, setTo] = useState<ShotId[]>([]);
  const projectId = document.project.value.id;
  const isOwn = hasOwnLook(document, shotId);
  const at = document.shots.findIndex((s) => s.value.id === shotId);
  const others = document.shots.map((s) => s.value).filter((s) => s.id !== shotId);
  const rest = document.shots.slice(at + 1).map((s) => s.value.id);
  const send = () => {
    edit(projectId, sendLook(now(), shotId, to));
    setTo([]);
  };
  return (
    <>
      <div className="row">
        <span className="grow quiet">{isOwn ? 'A look of its own' : 'As all shots; a change makes it its own'}</span>
        <Button size="small" disabled={!isOwn} onClick={() => edit(projectId, dropOwnLook(now(), shotId))}>
          As all shots
        </Button>
      </div>
      <div className="row">
        <Select
          className="grow"
          size="small"
          mode="multiple"
          allowClear
          maxTagCount="responsive"
          aria-label="Shots that get this look"
          placeholder="Send to shots"
          options={others.map(({ id, name }) => ({ value: id, label: name }))}
          value={to}
          onChange={setTo}
        />
        <Button size="small" disabled={rest.length === 0} onClick={() => setTo(rest)}>
          All after it
        </Button>
        <Button size="small" disabled={to.length === 0} onClick={send}>
          Send
        </Button>
      </div>
    </>
  );
}
