import { Button, Segmented } from 'antd';
import { useState } from 'react';
import { NEUTRAL_CDL, STRAIGHT_CURVE, type LookCurves } from '@mellow/core';
import { tellProblem } from '../../editing/editing.ts';
import { CdlNumbers } from '../../ui/CdlNumbers.tsx';
import { CurveEditor } from '../../ui/CurveEditor.tsx';
import { Fold } from '../../ui/Fold.tsx';
import { NumberRows, type NumberRow } from '../../ui/NumberRows.tsx';
import type { LookInHand } from './useLook.ts';

const SATURATION: NumberRow<'saturation'>[] = [
  { key: 'saturation', label: 'Saturation', unit: '%', min: 0, max: 400, step: 1, digits: 0, scale: 100 },
];
const CURVES = ['tone', 'red', 'green', 'blue'] as const satisfies (keyof LookCurves)[];
const ofTheLook = (label: string) => `${label} of the look`;

/** Saturation in sight; curves and the exact ASC CDL folded. */
export function LookNumbers({ look }: { look: LookInHand }) {
  const [curve, setCurve] = useState<keyof LookCurves>('tone');
  return (
    <>
      <div className="numbers">
        <NumberRows
          rows={SATURATION}
          values={look.cdl}
          neutral={NEUTRAL_CDL}
          nameOf={ofTheLook}
          onDrag={(_, saturation) => look.dragCdl({ saturation })}
          onCommit={(_, saturation) => look.saveCdl('Saturation', { saturation })}
        />
      </div>
      <Fold title="Curves" says={look.hasCurves ? 'on' : 'straight'} label="Curves of the look">
        <Segmented size="small" aria-label="Which curve" options={[...CURVES]} value={curve} onChange={setCurve} />
        <CurveEditor
          name={ofTheLook(`Curve of ${curve}`)}
          value={look.curves[curve]}
          neutral={STRAIGHT_CURVE}
          onSet={(next, phase) =>
            phase === 'drag'
              ? look.dragCurves({ [curve]: next })
              : look.saveCurves(`Curve of ${curve}`, { [curve]: next })
          }
        />
      </Fold>
      <Fold title="Exact" says="ASC CDL" label="Exact, ASC CDL of the look">
        <div className="row">
          <Button size="small" onClick={() => void look.openCdlFile()}>
            Open a CDL
          </Button>
          <Button size="small" disabled={!look.hasCdl} onClick={() => void look.saveCdlFile().catch(tellProblem)}>
            Save as .cc
          </Button>
        </div>
        <CdlNumbers cdl={look.cdl} nameOf={ofTheLook} onDrag={look.dragCdl} onSave={look.saveCdl} />
      </Fold>
    </>
  );
}
