import { Button, Progress, Upload } from 'antd';
import { FolderOpen } from 'lucide-react';
import type { ProjectDocument } from '@mellow/contract';
import { RefusedFiles } from '../../ui/RefusedFiles.tsx';
import { CutListButton, CutListSaid, useCutList } from './CutList.tsx';
import { HalfSent } from './HalfSent.tsx';
import { sendingText } from './halfSent.ts';
import { useImport, type OnItsWay } from './useImport.ts';

/** Where files are dropped, what is on its way and what did not come in. */
export function ImportArea({ document, onBrowse }: { document: ProjectDocument; onBrowse: () => void }) {
  const projectId = document.project.value.id;
  const cutList = useCutList(document);
  const { sending, left, send, sendFrameByFrame, forget } = useImport(projectId);
  if (sending) return <Sending {...sending} />;
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
      <HalfSent />
      <CutListSaid said={cutList.said} onClose={cutList.forget} />
      <RefusedFiles {...left} onFrameByFrame={sendFrameByFrame} onClose={forget} />
    </>
  );
}

function Sending(sending: OnItsWay) {
  const { share, isPaused, pause, goOn, stop } = sending;
  const isSending = share < 1;
  return (
    <div className="card" role="group" aria-label="On its way">
      {sendingText(sending)}
      <span className="row">
        <Progress className="grow" percent={Math.floor(share * 100)} status={isSending ? 'normal' : 'active'} />
        {isSending && (
          <Button size="small" onClick={isPaused ? goOn : pause}>
            {isPaused ? 'Go on' : 'Pause'}
          </Button>
        )}
        <Button size="small" onClick={stop}>
          Cancel
        </Button>
      </span>
    </div>
  );
}
