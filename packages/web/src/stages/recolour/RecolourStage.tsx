import { inShotLight } from '@mellow/core';
import { Button } from 'antd';
import { Link } from 'react-router';
import { useAppSelector } from '../../app/store.ts';
import { StageSplit } from '../../app/StageSplit.tsx';
import type { InHand } from '../../inhand/inHand.ts';
import { KeyframingBar } from '../../keyframing/KeyframingBar.tsx';
import { requiredLab } from '../../ui/colour.ts';
import { Ladder } from '../../ui/Ladder.tsx';
import { Fold } from '../../ui/Fold.tsx';
import { ViewerPane } from '../../viewer/ViewerPane.tsx';
import { HandOver } from './HandOver.tsx';
import { Kept } from './Kept.tsx';
import { LightCard } from './LightCard.tsx';
import { LiveColour } from './LiveColour.tsx';
import { MatchExact, MatchRow } from './MatchCard.tsx';
import { RecipeNumbers } from './RecipeNumbers.tsx';
import { RequirementCard } from './RequirementCard.tsx';
import { SurfaceFold } from './SurfaceFold.tsx';
import { Swing } from './Swing.tsx';
import { usePicking } from './usePicking.ts';
import { TouchSwitch } from './TouchSwitch.tsx';
import { ToolsPanel } from './tools/ToolsPanel.tsx';
import { useMatch } from './useMatch.ts';
import { useReach } from './useReach.ts';
import { useRecipe, type RecipeInHand } from './useRecipe.ts';

/** Recolours the piece in hand: its recipe beside the picture. */
export default function RecolourStage({ inHand }: { inHand: InHand }) {
  const recipe = useRecipe(inHand);
  const picking = usePicking(inHand);
  const panel = inHand.piece ? (
    <RecolourPanel inHand={inHand} recipe={recipe} />
  ) : (
    <div className="empty">Add a piece at the Isolate stage first.</div>
  );
  return (
    <StageSplit inHand={inHand} panel={panel}>
      <ViewerPane inHand={inHand} work={picking} lanes={recipe.lanes} />
    </StageSplit>
  );
}

function RecolourPanel({ inHand, recipe }: { inHand: InHand; recipe: RecipeInHand }) {
  const { requirement, shot, sighting } = inHand;
  const live = useAppSelector((s) => s.live);
  const { shift, move } = recipe;
  const reach = useReach(inHand);
  const matching = useMatch(inHand);
  return (
    <>
      <RequirementCard key={`${requirement?.id ?? 'none'} ${JSON.stringify(requirement?.lab)}`} inHand={inHand} />
      {!sighting?.layers.length && <NothingIsolated inHand={inHand} />}
      <LiveColour inHand={inHand} />
      <MatchRow inHand={inHand} matching={matching} />
      <div className="recolour-head">
        <h2>Recolour</h2>
        <TouchSwitch isAnimatedHere={recipe.lanes.length > 0} />
        <Button size="small" disabled={!recipe.isSet} onClick={recipe.reset}>
          Reset
        </Button>
      </div>
      <div className="swing-row">
        <Swing
          from={live?.before}
          match={recipe.match}
          shift={shift}
          finer={recipe.finer}
          required={requirement && inShotLight(shot?.light?.matrix, requiredLab(requirement))}
          reach={reach}
          onDrag={(next) => move({ shift: next }, 'drag')}
          onSave={(next) => move({ shift: next }, 'done', 'Hue and saturation')}
          onBend={(name, to, phase) =>
            move({ finer: { bend: { [name]: { ...recipe.finer.bend[name], ...to } } } }, phase, 'Bend')
          }
        />
        <Ladder
          density={shift.density}
          reach={1.2}
          height={250}
          label="Density ladder"
          onDrag={(density) => move({ shift: { density } }, 'drag')}
          onSave={(density) => move({ shift: { density } }, 'done', 'Density')}
        />
      </div>
      <RecipeNumbers recipe={recipe} />
      <ToolsPanel recipe={recipe} />
      {shot && <LightCard inHand={inHand} shot={shot} />}
      <MatchExact inHand={inHand} recipe={recipe} matching={matching} />
      <SurfaceFold inHand={inHand} />
      <Kept inHand={inHand} />
      <HandOver inHand={inHand} />
      <Fold title="Keyframes" label="Keyframes">
        <KeyframingBar />
      </Fold>
    </>
  );
}

function NothingIsolated({ inHand: { document, piece, shot } }: { inHand: InHand }) {
  return (
    <div className="card">
      {`The ${piece?.name} is not isolated in ${shot?.name ?? 'this shot'} yet: `}
      the recolour has nothing to work on here.{' '}
      <Link to={`/projects/${document.project.value.id}/isolate`}>Isolate it</Link>
    </div>
  );
}
