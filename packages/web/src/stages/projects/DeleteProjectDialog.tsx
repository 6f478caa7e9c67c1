import { Modal } from 'antd';
import type { ProjectCard } from '@mellow/contract';
import { problemText } from '../../data/requests.ts';
import { useDeleteProjectMutation, useSpaceQuery } from '../../data/space.ts';
import { bytesText } from '../../ui/bytesText.ts';
import { allBytes } from './spaceText.ts';

/** Asks once more before a project is gone for good. */
export default function DeleteProjectDialog({
  project: { id, name },
  onClose,
}: {
  project: Pick<ProjectCard, 'id' | 'name'>;
  onClose: () => void;
}) {
  const { data: space } = useSpaceQuery();
  const [remove, { isLoading, error }] = useDeleteProjectMutation();
  const own = space?.projects.find((p) => p.id === id);
  const doIt = async () => {
    if ((await remove(id)).data) onClose();
  };
  return (
    <Modal
      open
      title={`Delete ${name} for good?`}
      okText="Delete for good"
      okButtonProps={{ danger: true, loading: isLoading }}
      onOk={() => void doIt()}
      onCancel={onClose}
    >
      <p>
        Its pieces, its history, its reviews and its renders are gone, and so is the footage that no other project has.
        Nothing brings them back.
      </p>
      {own && <p className="quiet">It takes {bytesText(allBytes(own))}, with footage that others may have too.</p>}
      {error ? <p role="alert">{problemText(error)}</p> : null}
    </Modal>
  );
}
