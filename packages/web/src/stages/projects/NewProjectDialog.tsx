import { Select } from 'antd';
import { useState } from 'react';
import type { ProjectId } from '@mellow/contract';
import AskNameDialog from '../../ui/AskNameDialog.tsx';

interface Props {
  /** Projects whose pieces a new one can begin with. */
  others: readonly { id: ProjectId; name: string }[];
  onMake: (name: string, piecesOf: ProjectId | undefined) => void;
  onClose: () => void;
}
/** Asks for a new project's name, and with whose pieces and requirements it begins. */
export default function NewProjectDialog({ others, onMake, onClose }: Props) {
  const [piecesOf, setPiecesOf] = useState<ProjectId>();
  return (
    <AskNameDialog
      title="New project"
      label="Project name"
      ok="Create"
      onName={(name) => onMake(name, piecesOf)}
      onClose={onClose}
    >
      <Select
        style={{ width: '100%', marginTop: 10 }}
        allowClear
        showSearch={{ optionFilterProp: 'label' }}
        aria-label="Pieces and requirements of"
        placeholder="Pieces and requirements of another project"
        options={others.map(({ id, name }) => ({ value: id, label: name }))}
        value={piecesOf}
        onChange={setPiecesOf}
      />
    </AskNameDialog>
  );
}
