import { Button, Popover, Switch, Upload } from 'antd';
import { Sunset } from 'lucide-react';
import { useState } from 'react';
import { NEUTRAL_CDL } from '@mellow/core';
import { setCdl, setCube, turnLook, withCdl } from '../commands/projectLook.ts';
import { uploadCube } from '../data/upload.ts';
import { documentOf, edit, tellProblem } from '../editing/editing.ts';
import type { InHand } from '../inhand/inHand.ts';
import { KeyTip } from '../keys/KeyTip.tsx';
import { useCommands } from '../keys/useCommands.ts';
import { useAppDispatch } from '../app/store.ts';
import { CdlNumbers } from '../ui/CdlNumbers.tsx';
import { Fold } from '../ui/Fold.tsx';
import { NumberRows, type NumberRow } from '../ui/NumberRows.tsx';
import { askForText, saveFile } from '../ui/saveFile.ts';
import { dragged } from '../view/draftSlice.ts';

const SATURATION: NumberRow<'saturation'>[] = [
  { key: 'saturation', label: 'Saturation', unit: '%', min: 0, max: 400, step: 1, digits: 0, scale: 100 },
];

/** The project's look: on or off, its table, its CDL. What is judged is judged through it. */
export function LookMenu({ inHand: { document } }: { inHand: InHand }) {
  const dispatch = useAppDispatch();
  const { id: projectId, look } = document.project.value;
  const [problem, setProblem] = useState<string>();
  const now = () => documentOf(projectId) ?? document;
  const isOn = look?.isOn ?? false;
  const turn = () => edit(projectId, turnLook(now()));
  useCommands({ look: { run: turn, isOn, cannot: look ? undefined : 'no look' } });
  const bring = async (file: File) => {
    const { cube, said } = await uploadCube(projectId, file);
    setProblem(said);
    if (cube) edit(projectId, setCube(now(), cube));
  };
  const cdl = look?.cdl ?? NEUTRAL_CDL;
  const openCdl = async () => {
    const text = await askForText('.cc,.ccc,.cdl');
    if (text === undefined) return;
    try {
      const { readCdl } = await import('../commands/cdlFile.ts');
      edit(projectId, setCdl(now(), 'The CDL', readCdl(text)));
      setProblem(undefined);
    } catch (error) {
      setProblem(`The CDL is not read. ${error instanceof Error ? error.message : String(error)}`);
    }
  };
  const saveCdl = async () => {
    const { cdlText } = await import('../commands/cdlFile.ts');
    const { name } = document.project.value;
    saveFile(`${name}.cc`, cdlText(name, cdl), 'application/xml');
  };
  const drag = (changed: Partial<typeof cdl>) => dispatch(dragged({ look: withCdl(look, changed) }));
  const save = (label: string, changed: Partial<typeof cdl>) => edit(projectId, setCdl(now(), label, changed));
  const content = (
    <div className="look-menu">
      <div className="row">
        <span className="grow">Judge through the look</span>
        <Switch size="small" aria-label="Look on" disabled={!look} checked={isOn} onChange={turn} />
      </div>
      <div className="row">
        <span className="grow shorten">
          {look?.cube ? `${look.cube.name}, ${look.cube.kind}, ${look.cube.size}` : 'No table'}
        </span>
        <Upload
          accept=".cube"
          showUploadList={false}
          beforeUpload={(file) => {
            void bring(file);
            return false;
          }}
        >
          <Button size="small">{look?.cube ? 'Another' : 'Table (.cube)'}</Button>
        </Upload>
        {look?.cube && (
          <Button size="small" onClick={() => edit(projectId, setCube(now(), null))}>
            Remove
          </Button>
        )}
      </div>
      {problem && <div role="alert">{problem}</div>}
      <div className="numbers">
        <NumberRows
          rows={SATURATION}
          values={cdl}
          neutral={NEUTRAL_CDL}
          nameOf={(label) => `${label} of the look`}
          onDrag={(_, saturation) => drag({ saturation })}
          onCommit={(_, saturation) => save('Saturation', { saturation })}
        />
      </div>
      <Fold title="Exact" says="ASC CDL" label="Exact, ASC CDL of the look">
        <div className="row">
          <Button size="small" onClick={() => void openCdl()}>
            Open a CDL
          </Button>
          <Button size="small" disabled={!look?.cdl} onClick={() => void saveCdl().catch(tellProblem)}>
            Save as .cc
          </Button>
        </div>
        <CdlNumbers cdl={cdl} nameOf={(label) => `${label} of the look`} onDrag={drag} onSave={save} />
      </Fold>
    </div>
  );
  return (
    <Popover trigger="click" placement="bottomRight" title="Look, after all recolours" content={content}>
      <span>
        <KeyTip id="look" title="Look: the overall correction after all recolours">
          <Button size="small" type={isOn ? 'primary' : 'text'} aria-label="Look" aria-pressed={isOn}>
            <Sunset size={15} />
          </Button>
        </KeyTip>
      </span>
    </Popover>
  );
}
