import { Alert, Button, Upload } from 'antd';
import { Scissors } from 'lucide-react';
import { useState } from 'react';
import { readCutList } from '@mellow/core';
import type { ProjectDocument } from '@mellow/contract';
import { conform } from '../../commands/conform.ts';
import { documentOf, edit } from '../../editing/editing.ts';

interface Said {
  title: string;
  lines: readonly string[];
}
/** Reads a cut list: a button, and what came of it. */
export function useCutList(document: ProjectDocument) {
  const projectId = document.project.value.id;
  const [said, setSaid] = useState<Said>();
  const read = async (file: File) => {
    try {
      const list = readCutList(await file.text());
      const { change, made, left } = conform(documentOf(projectId) ?? document, list, () => crypto.randomUUID());
      if (made > 0) edit(projectId, change);
      const shots = made === 1 ? '1 shot' : `${made} shots`;
      setSaid({ title: made > 0 ? `${file.name} made ${shots}` : `${file.name} made no shot`, lines: left });
    } catch (error) {
      setSaid({
        title: `${file.name} is not read`,
        lines: [error instanceof Error ? error.message : String(error)],
      });
    }
  };
  return { said, read: (file: File) => void read(file), forget: () => setSaid(undefined) };
}

export function CutListButton({ onFile }: { onFile: (file: File) => void }) {
  return (
    <Upload
      accept=".edl,.otio,.txt,.json"
      showUploadList={false}
      beforeUpload={(file) => {
        onFile(file);
        return false;
      }}
    >
      <Button
        icon={<Scissors size={15} />}
        title="CMX 3600 (EDL) or OpenTimelineIO: its events become shots of the footage that is here"
      >
        Cut list
      </Button>
    </Upload>
  );
}

export function CutListSaid({ said, onClose }: { said: Said | undefined; onClose: () => void }) {
  if (!said) return null;
  return (
    <Alert
      type={said.lines.length > 0 ? 'warning' : 'info'}
      style={{ marginTop: 12 }}
      closable={{ onClose }}
      title={said.title}
      description={
        said.lines.length > 0 && (
          <ul style={{ margin: 0, paddingLeft: 18 }}>
            {said.lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        )
      }
    />
  );
}
