import { Button, Checkbox, Tooltip } from 'antd';
import { NEUTRAL_GAIN, REACHED } from '@mellow/core';
import type { Gain } from '@mellow/contract';
import type { MatchAnswer } from '../../engine/frameProtocol.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { Keyframing } from '../../keyframing/Keyframing.ts';
import { lchText, toleranceOf } from '../../ui/colour.ts';
import { NumberField } from '../../ui/NumberField.tsx';
import { NumberRows, type NumberRow } from '../../ui/NumberRows.tsx';
import { SplitPictures } from './SplitPictures.tsx';
import { Fold } from '../../ui/Fold.tsx';
import type { useMatch } from './useMatch.ts';
import type { RecipeInHand } from './useRecipe.ts';

const gain = (key: keyof Gain, label: string): NumberRow<keyof Gain> => ({
  key,
  label,
  unit: '%',
  min: 0.1,
  max: 10_000,
  step: 1,
  digits: 1,
  scale: 100,
});
const ROWS = [gain('long', 'Long waves'), gain('middle', 'Middle waves'), gain('short', 'Short waves')];
const PARTS = ['hue', 'saturation', 'lightness'] as const;

type Matching = ReturnType<typeof useMatch>;

/** One press from the measured colour to the required one, and what it came to. */
export function MatchRow({ inHand, matching }: { inHand: InHand; matching: Matching }) {
  const { isBusy, answer, canMatch, match } = matching;
  const { document, requirement } = inHand;
  const tolerance = toleranceOf(requirement, document.project.value.tolerance);
  return (
    <section aria-label="Match" className="match">
      <div className="row">
        <Tooltip title="Takes the piece’s measured colour to the required one, by light">
          <Button size="small" type="primary" disabled={!canMatch} loading={isBusy} onClick={() => match('gain')}>
            Match
          </Button>
        </Tooltip>
        <Tooltip title="Tells its sheen apart, and changes only what lies under it">
          <Button size="small" disabled={!canMatch || isBusy} onClick={() => match('repaint')}>
            Repaint
          </Button>
        </Tooltip>
        <Tooltip title="By hue, saturation and density alone, to go on from by hand">
          <Button size="small" disabled={!canMatch || isBusy} onClick={() => match('shift')}>
            By hue
          </Button>
        </Tooltip>
      </div>
      <Outcome isBusy={isBusy} answer={answer} tolerance={tolerance} hasRequirement={requirement !== undefined} />
    </section>
  );
}

interface ExactProps {
  inHand: InHand;
  recipe: RecipeInHand;
  matching: Matching;
}
/** What a match carries, and what it has set, to be changed by hand. */
export function MatchExact({ inHand, recipe, matching: { carried, setCarried } }: ExactProps) {
  return (
    <Fold title="Match, exact" label="Match, exact">
      <div className="row">
        <span className="quiet">carries</span>
        {PARTS.map((part) => (
          <Checkbox
            key={part}
            checked={carried[part]}
            onChange={(e) => setCarried({ ...carried, [part]: e.target.checked })}
          >
            {part}
          </Checkbox>
        ))}
      </div>
      {recipe.repaint.on && (
        <>
          <SplitPictures inHand={inHand} />
          <KeptSheen recipe={recipe} />
        </>
      )}
      <Keyframing value={recipe.keyframing}>
        <div className="numbers">
          <NumberRows
            rows={ROWS}
            values={recipe.match}
            neutral={NEUTRAL_GAIN}
            of="match"
            onDrag={(key, v) => recipe.move({ match: { [key]: v } }, 'drag')}
            onCommit={(key, v, name) => recipe.move({ match: { [key]: v } }, 'done', name)}
          />
        </div>
      </Keyframing>
    </Fold>
  );
}

/** How much of the sheen that was told apart is put back. */
function KeptSheen({ recipe }: { recipe: RecipeInHand }) {
  return (
    <Keyframing value={recipe.keyframing}>
      <div className="numbers">
        <NumberField
          animates="repaint.sheen"
          label="Sheen"
          unit="%"
          min={0}
          max={200}
          step={1}
          digits={0}
          neutral={100}
          value={recipe.repaint.sheen * 100}
          onDrag={(v) => recipe.move({ repaint: { sheen: v / 100 } }, 'drag')}
          onCommit={(v) => recipe.move({ repaint: { sheen: v / 100 } }, 'done', 'Sheen')}
        />
      </div>
    </Keyframing>
  );
}

interface OutcomeProps {
  isBusy: boolean;
  answer: MatchAnswer | 'nothing' | undefined;
  tolerance: number;
  hasRequirement: boolean;
}
/** What a match has done to a dark piece that becomes light. */
const dyeText = ({ dye }: MatchAnswer): string =>
  dye === undefined ? '' : `; lifted so far that ${Math.round(100 * dye)} % of its dye is kept, for its shading’s sake`;
/** What a match has done against grain. */
const softText = ({ softenPx }: MatchAnswer): string =>
  softenPx === undefined ? '' : `; colour softened by ${softenPx} px against grain`;
/** What a repaint has found of sheen. */
function sheenText({ body }: MatchAnswer): string {
  if (!body) return '';
  if (body.confidence === 0)
    return '; matched as it is: its sheen cannot be told apart (grey or pale, or lit by several lights)';
  return `; sheen kept apart, ${Math.round(100 * body.confidence)} % sure`;
}

/** What the last match came to, in words; its line is there before it. */
function Outcome({ isBusy, answer, tolerance, hasRequirement }: OutcomeProps) {
  const text = () => {
    if (!hasRequirement) return 'Require a colour of it first.';
    if (isBusy) return 'Looking at the shot’s frames …';
    if (!answer) return 'Takes the shot’s measured colour to the required one.';
    if (answer === 'nothing') return 'Nothing of the piece can be measured in this shot.';
    const found = sheenText(answer) + dyeText(answer) + softText(answer);
    const near = `${lchText(answer.reached)}, ΔE ${answer.deltaE.toFixed(2)}${found}`;
    if (answer.deltaE <= REACHED) return `Reached: ${near}.`;
    if (answer.deltaE <= tolerance) return `Within tolerance: ${near}.`;
    return `Not reachable from this colour: the nearest is ${near}.`;
  };
  return (
    <div className="quiet outcome" role="status">
      {text()}
    </div>
  );
}
