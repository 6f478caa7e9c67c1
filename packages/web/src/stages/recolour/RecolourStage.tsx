import { Button } from 'antd';
import { Link } from 'react-router';
import { useMemo } from 'react';
import type { Animated, Recipe, RecipeId, Shift } from '@mellow/contract';
import {
  ciede2000,
  foldNumbers,
  lchFromLab,
  NEUTRAL_SHIFT,
  numbersAt,
  type Keying as HowKeyed,
  type NumberKey,
} from '@mellow/core';
import { edit } from '../../app/editing.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { StageSplit } from '../../app/StageSplit.tsx';
import type { InHand } from '../../app/useProject.ts';
import { recipeDragged } from '../../app/viewSlice.ts';
import { DeltaE, linearHex, requiredHex, requiredLab, toleranceOf } from '../../ui/colour.tsx';
import { Keying } from '../../ui/Keying.ts';
import { NumberField } from '../../ui/NumberField.tsx';
import type { Lane } from '../../viewer/lanes.ts';
import { ViewerPane } from '../../viewer/ViewerPane.tsx';
import { keyingOf } from '../isolate/keyingOf.tsx';
import { KeyingBar } from '../isolate/KeysPanel.tsx';
import { nameInWords } from '../isolate/names.ts';
import { DensityLadder } from './DensityLadder.tsx';
import { RequirementCard } from './RequirementCard.tsx';
import { Swing } from './Swing.tsx';

export default function RecolourStage({ inHand }: { inHand: InHand }) {
  const { document, piece, colourwayId, recipe, requirement, sighting, shot } = inHand;
  const dispatch = useAppDispatch();
  const live = useAppSelector((s) => s.view.live);
  const projectId = document.project.value.id;
  const { frame, autoKey, everywhere, ease } = useAppSelector((s) => s.view.place);
  const shotId = shot?.id;
  const animated = shotId ? recipe?.animated[shotId] : undefined;
  const keying: HowKeyed = { frame, auto: autoKey, everywhere, ease };
  // what the recipe is on this frame of this shot
  const { shift, strength } = numbersAt(
    { shift: recipe?.shift ?? NEUTRAL_SHIFT, strength: recipe?.strength ?? 1 },
    animated,
    frame,
  );
  const put = (label: string, value: Pick<Recipe, 'shift' | 'strength' | 'animated'>) => {
    if (!piece || !colourwayId) return;
    const id = recipe?.id ?? (crypto.randomUUID() as RecipeId);
    edit(projectId, `${label} of ${piece.name}`, [
      { kind: 'recipe', id, value: { id, projectId, pieceId: piece.id, colourwayId, ...value } as Recipe },
    ]);
  };
  const withAnimated = (next: Animated | undefined): Recipe['animated'] => {
    const { [shotId!]: _old, ...others } = recipe?.animated ?? {};
    return (next && Object.keys(next).length > 0 ? { ...others, [shotId!]: next } : others) as Recipe['animated'];
  };
  /** Numbers with keyframes in this shot change there, the others for all shots. */
  const folded = (next: Partial<Shift>, s: number) => {
    const shown = { shift, strength, animated };
    const stored = { shift: recipe?.shift ?? NEUTRAL_SHIFT, strength: recipe?.strength ?? 1, animated };
    const out = foldNumbers(stored, shown, { shift: { ...shift, ...next }, strength: s, animated }, keying);
    return { shift: out.shift, strength: out.strength, animated: withAnimated(out.animated) };
  };
  const drag = (next: Partial<Shift>, s = strength) =>
    piece && colourwayId && dispatch(recipeDragged({ pieceId: piece.id, colourwayId, ...folded(next, s) }));
  const save = (label: string, next: Partial<Shift>, s = strength) => put(label, folded(next, s));
  const lanes = useMemo(
    (): Lane[] =>
      Object.entries(animated ?? {}).map(([name, keys]) => ({
        id: `recipe ${name}`,
        label: `${piece?.name ?? ''}: ${nameInWords(name).replace('shift ', '')}`,
        keys,
        put: (step, next) => {
          const { [name]: _old, ...rest } = animated!;
          put(step, {
            shift: recipe!.shift,
            strength: recipe!.strength,
            animated: withAnimated(next.length > 0 ? { ...rest, [name]: next as NumberKey[] } : rest),
          });
        },
      })),
    [animated, recipe, piece],
  );
  const keys = keyingOf({ shift, strength }, animated, frame, ease, (label, next) =>
    put(label, {
      shift: recipe?.shift ?? NEUTRAL_SHIFT,
      strength: recipe?.strength ?? 1,
      animated: withAnimated(next),
    }),
  );
  const field = (
    label: string,
    key: keyof Shift,
    unit: string,
    min: number,
    max: number,
    step: number,
    digits: number,
    scale = 1,
  ) => (
    <NumberField
      keyed={`shift.${key}`}
      label={label}
      unit={unit}
      min={min}
      max={max}
      step={step}
      digits={digits}
      neutral={NEUTRAL_SHIFT[key] * scale}
      value={shift[key] * scale}
      onDrag={(v) => drag({ [key]: v / scale })}
      onCommit={(v) => save(label, { [key]: v / scale })}
    />
  );
  const panel = !piece ? (
    <div className="empty">Add a piece at the Isolate stage first.</div>
  ) : (
    <>
      <RequirementCard key={`${requirement?.id ?? 'none'} ${JSON.stringify(requirement?.lab)}`} inHand={inHand} />
      {!sighting?.layers.length && (
        <div className="card">
          The {piece.name} is not isolated in {shot?.name ?? 'this shot'} yet: the recolour has nothing to work on here.{' '}
          <Link to={`/projects/${projectId}/isolate`}>Isolate it</Link>
        </div>
      )}
      {live && (
        <div className="card">
          <div className="patches" style={{ marginTop: 0 }}>
            <div style={{ background: linearHex(live.before.meanLinear) }} title="source" />
            <div style={{ background: linearHex(live.after.meanLinear) }} title="now" />
            {requirement && <div style={{ background: requiredHex(requirement)! }} title="required" />}
          </div>
          <div className="row quiet">
            source → now{requirement ? ' | required' : ''}
            <span style={{ flex: 1 }} />
            {requirement && (
              <DeltaE
                value={ciede2000(live.after.lab, requiredLab(requirement))}
                tolerance={toleranceOf(requirement, document.project.value.tolerance)}
              />
            )}
          </div>
          <div className="mono">
            {(({ L, C, hDeg }) => `L ${L.toFixed(1)}  C ${C.toFixed(1)}  h ${hDeg.toFixed(1)}°`)(
              lchFromLab(live.after.lab),
            )}{' '}
            <span className="quiet">this frame</span>
          </div>
        </div>
      )}
      <h2>
        Recolour <span style={{ flex: 1 }} />
        <Button
          size="small"
          disabled={!recipe}
          onClick={() =>
            put('Reset the recolour', { shift: NEUTRAL_SHIFT, strength: 1, animated: withAnimated(undefined) })
          }
        >
          Reset
        </Button>
      </h2>
      <div className="row" style={{ alignItems: 'stretch' }}>
        <Swing
          from={live?.before}
          shift={shift}
          required={requirement ? requiredLab(requirement) : undefined}
          onDrag={drag}
          onSave={(next) => save('Hue and saturation', next)}
        />
        <DensityLadder
          density={shift.density}
          onDrag={(density) => drag({ density })}
          onSave={(density) => save('Density', { density })}
        />
      </div>
      <Keying value={shot ? keys : null}>
        <div className="numbers">
          {field('Hue', 'hueDeg', '°', -3600, 3600, 0.5, 1)}
          {field('Saturation', 'saturation', '%', 0, 400, 1, 1, 100)}
          {field('Density', 'density', 'D', -2, 2, 0.01, 3)}
          {field('Exposure', 'exposureStops', 'stops', -8, 8, 0.05, 2)}
          <NumberField
            keyed="strength"
            label="Strength"
            unit="%"
            min={0}
            max={100}
            step={1}
            digits={0}
            neutral={100}
            value={strength * 100}
            onDrag={(v) => drag({}, v / 100)}
            onCommit={(v) => save('Strength', {}, v / 100)}
          />
        </div>
      </Keying>
      <KeyingBar />
    </>
  );
  return (
    <StageSplit panel={panel}>
      <ViewerPane inHand={inHand} lanes={lanes} />
    </StageSplit>
  );
}
