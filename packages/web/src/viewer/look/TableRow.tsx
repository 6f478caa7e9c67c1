import { Button, Upload } from 'antd';
import type { CubeFile } from '@mellow/contract';
import { uploadCube } from '../../data/upload.ts';

interface Props {
  /** What stands there while there is none. */
  none: string;
  /** What a screen reader calls it; the buttons’ own words where left out. */
  name?: string;
  table: CubeFile | null;
  projectId: string;
  onChange: (table: CubeFile | null) => void;
  onProblem: (said: string | undefined) => void;
}
const textOf = ({ name, kind, size }: CubeFile) =>
  kind === 'CLF' ? `${name}, CLF, ${size} ${size === 1 ? 'step' : 'steps'}` : `${name}, ${kind}, ${size}`;

/** A look-up table that can be brought in, changed for another and removed. */
export function TableRow({ none, name, table, projectId, onChange, onProblem }: Props) {
  const bring = async (file: File) => {
    const { cube, said } = await uploadCube(projectId, file);
    onProblem(said);
    if (cube) onChange(cube);
  };
  return (
    <div className="row">
      <span className="grow shorten">{table ? textOf(table) : none}</span>
      <Upload
        accept=".cube,.clf,.xml"
        showUploadList={false}
        beforeUpload={(file) => {
          void bring(file);
          return false;
        }}
      >
        <Button size="small" aria-label={name}>
          {table ? 'Another' : 'Table (.cube, .clf)'}
        </Button>
      </Upload>
      {table && (
        <Button size="small" aria-label={name && `Remove the ${name.toLowerCase()}`} onClick={() => onChange(null)}>
          Remove
        </Button>
      )}
    </div>
  );
}
