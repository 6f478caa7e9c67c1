import { Button, Progress, Upload } from 'antd';
import { FolderOpen } from 'lucide-react';
import type { ProjectDocument } from '@mellow/contract';
import { RefusedFiles } from '../../ui/RefusedFiles.tsx';
import { CutListButton, CutListSaid, useCutList } from './CutList.tsx';
import { useImport } from './useImport.ts';

/** Where files are dropped, what is on its way and what did not come in. */
export function ImportArea({ document, onBrowse }: { document: ProjectDocument; onBrowse: () => void }) {
  const projectId = document.project.value.id;
  const cutList = useCutList(document);
  const { sending, left, send, sendFrameByFrame, forget } = useImport(projectId);
  if (sending) {
    const isSending = sending.share < 1;
    return (
      <div className="card">
        {isSending ? `Sending ${sending.name}` : `Checking ${sending.name}: every frame is decoded once`}
        <span className="row">
          <Progress
            className="grow"
            percent={Math.round(sending.share * 100)}
            status={isSending ? 'normal' : 'active'}
          />
          <Button size="small" onClick={sending.abort}>
            Cancel
          </Button>
        </span>
      </div>
    );
  }
  return (
    <>
      <div className="row">
        <div className="grow">
          <Upload.Dragger
            multiple
            showUploadList={false}
            style={{ background: 'transparent' }}
            beforeUpload={(file, all) => {
              if (file === all.at(-1)) send(all);
              return false;
            }}
          >
            Drop video files or numbered images (PNG, TIFF, JPEG, EXR, DPX) here, or click to choose
          </Upload.Dragger>
        </div>
        <Button icon={<FolderOpen size={15} />} onClick={onBrowse}>
          Media folder
        </Button>
        {document.media.length > 0 && <CutListButton onFile={cutList.read} />}
      </div>
      <CutListSaid said={cutList.said} onClose={cutList.forget} />
      <RefusedFiles {...left} onFrameByFrame={sendFrameByFrame} onClose={forget} />
    </>
  );
}
