import { Drawer } from 'antd';
import Markdown from 'react-markdown';
import remarkGfm from 'remark-gfm';
import { useStage, type StageName } from '../app/stages.ts';
import deliver from '../../../../docs/deliver.md?raw';
import isolate from '../../../../docs/isolate.md?raw';
import lineup from '../../../../docs/line-up.md?raw';
import recolour from '../../../../docs/recolour.md?raw';
import shots from '../../../../docs/shots.md?raw';
import throughTime from '../../../../docs/through-time.md?raw';

const READ: Record<StageName, string> = { shots, isolate: `${isolate}\n\n${throughTime}`, recolour, lineup, deliver };

/** What there is to read of the stage that is shown, beside its picture. */
export default function Guide({ onClose }: { onClose: () => void }) {
  const stage = useStage();
  return (
    <Drawer open size={520} mask={false} title="About this stage" onClose={onClose}>
      <div className="guide">
        <Markdown remarkPlugins={[remarkGfm]}>{READ[stage]}</Markdown>
      </div>
    </Drawer>
  );
}
