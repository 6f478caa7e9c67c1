import { Button } from 'antd';
import { Link } from 'react-router';
import type { Recipe, RecipeId, Shift } from '@mellow/contract';
import { ciede2000, lchFromLab, NEUTRAL_SHIFT } from '@mellow/core';
import { edit } from '../../app/editing.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { StageSplit } from '../../app/StageSplit.tsx';
import type { InHand } from '../../app/useProject.ts';
import { recipeDragged } from '../../app/viewSlice.ts';
import { DeltaE, linearHex, requiredHex, requiredLab, toleranceOf } from '../../ui/colour.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import { ViewerPane } from '../../viewer/ViewerPane.tsx';
import { DensityLadder } from './DensityLadder.tsx';
import { RequirementCard } from './RequirementCard.tsx';
import { Swing } from './Swing.tsx';

export default function RecolourStage({ inHand }: { inHand: InHand }) {
  const { document, piece, colourwayId, recipe, requirement, sighting, shot } = inHand;
  const dispatch = useAppDispatch();
  const live = useAppSelector((s) => s.view.live);
  const projectId = document.project.value.id;
  const shift = recipe?.shift ?? NEUTRAL_SHIFT;
  const strength = recipe?.strength ?? 1;
  const drag = (next: Partial<Shift>, s = strength) => piece && colourwayId && dispatch(recipeDragged({ pieceId: piece.id, colourwayId, shift: { ...shift, ...next }, strength: s }));
  const save = (label: string, next: Partial<Shift>, s = strength) => {
    if (!piece || !colourwayId) return;
    const id = recipe?.id ?? (crypto.randomUUID() as RecipeId);
    const value = { id, projectId, pieceId: piece.id, colourwayId, shift: { ...shift, ...next }, strength: s } as Recipe;
    edit(projectId, `${label} of ${piece.name}`, [{ kind: 'recipe', id, value }]);
  };
  const field = (label: string, key: keyof Shift, unit: string, min: number, max: number, step: number, digits: number, scale = 1) => (
    <NumberField label={label} unit={unit} min={min} max={max} step={step} digits={digits} neutral={NEUTRAL_SHIFT[key] * scale} value={shift[key] * scale} onDrag={(v) => drag({ [key]: v / scale })} onCommit={(v) => save(label, { [key]: v / scale })} />
  );
  const panel = !piece ? <div className="empty">Add a piece at the Isolate stage first.</div> : (
    <>
      <RequirementCard key={`${requirement?.id ?? 'none'} ${JSON.stringify(requirement?.lab)}`} inHand={inHand} />
      {!sighting?.layers.length && <div className="card">The {piece.name} is not isolated in {shot?.name ?? 'this shot'} yet: the recolour has nothing to work on here. <Link to={`/projects/${projectId}/isolate`}>Isolate it</Link></div>}
      {live && (
        <div className="card">
          <div className="patches" style={{ marginTop: 0 }}>
            <div style={{ background: linearHex(live.before.meanLinear) }} title="source" />
            <div style={{ background: linearHex(live.after.meanLinear) }} title="now" />
            {requirement && <div style={{ background: requiredHex(requirement)! }} title="required" />}
          </div>
          <div className="row quiet">source → now{requirement ? ' | required' : ''}<span style={{ flex: 1 }} />{requirement && <DeltaE value={ciede2000(live.after.lab, requiredLab(requirement))} tolerance={toleranceOf(requirement, document.project.value.tolerance)} />}</div>
          <div className="mono">{(({ L, C, hDeg }) => `L ${L.toFixed(1)}  C ${C.toFixed(1)}  h ${hDeg.toFixed(1)}°`)(lchFromLab(live.after.lab))} <span className="quiet">this frame</span></div>
        </div>
      )}
      <h2>Recolour <span style={{ flex: 1 }} /><Button size="small" disabled={!recipe} onClick={() => save('Reset the recolour', NEUTRAL_SHIFT, 1)}>Reset</Button></h2>
      <div className="row" style={{ alignItems: 'stretch' }}>
        <Swing from={live?.before} shift={shift} required={requirement ? requiredLab(requirement) : undefined} onDrag={drag} onSave={(next) => save('Hue and saturation', next)} />
        <DensityLadder density={shift.density} onDrag={(density) => drag({ density })} onSave={(density) => save('Density', { density })} />
      </div>
      <div className="numbers">
        {field('Hue', 'hueDeg', '°', -3600, 3600, 0.5, 1)}
        {field('Saturation', 'saturation', '%', 0, 400, 1, 1, 100)}
        {field('Density', 'density', 'D', -2, 2, 0.01, 3)}
        {field('Exposure', 'exposureStops', 'stops', -8, 8, 0.05, 2)}
        <NumberField label="Strength" unit="%" min={0} max={100} step={1} digits={0} neutral={100} value={strength * 100} onDrag={(v) => drag({}, v / 100)} onCommit={(v) => save('Strength', {}, v / 100)} />
      </div>
    </>
  );
  return <StageSplit panel={panel}><ViewerPane inHand={inHand} /></StageSplit>;
}
