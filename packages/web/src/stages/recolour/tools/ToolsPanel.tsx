import { Button, Switch } from 'antd';
import { useState, type ReactNode } from 'react';
import { isAtWork, type Finer, type FinerTool } from '@mellow/core';
import { Keyframing } from '../../../keyframing/Keyframing.ts';
import type { RecipeInHand } from '../useRecipe.ts';
import { BandsTool } from './BandsTool.tsx';
import { BendTool } from './BendTool.tsx';
import { ChannelsTool, ToneTool } from './CurveTools.tsx';
import { OutsideTool } from './OutsideTool.tsx';
import { DyeTool, GuardTool, TextureTool } from './PlainTools.tsx';
import { PrimariesTool } from './PrimariesTool.tsx';
import { TOOL_NAMES, toolInHand } from './useTool.ts';

const EDITORS: { [K in FinerTool]: (recipe: RecipeInHand) => ReactNode } = {
  primaries: (recipe) => <PrimariesTool tool={toolInHand(recipe, 'primaries')} />,
  bands: (recipe) => <BandsTool tool={toolInHand(recipe, 'bands')} />,
  bend: (recipe) => <BendTool tool={toolInHand(recipe, 'bend')} />,
  dye: (recipe) => <DyeTool tool={toolInHand(recipe, 'dye')} />,
  tone: (recipe) => <ToneTool tool={toolInHand(recipe, 'tone')} />,
  channels: (recipe) => <ChannelsTool tool={toolInHand(recipe, 'channels')} />,
  texture: (recipe) => <TextureTool tool={toolInHand(recipe, 'texture')} />,
  guard: (recipe) => <GuardTool tool={toolInHand(recipe, 'guard')} />,
  outside: (recipe) => <OutsideTool tool={toolInHand(recipe, 'outside')} />,
};
const NAMES = Object.keys(EDITORS) as FinerTool[];
const works = (finer: Finer, name: FinerTool) => isAtWork(name, finer[name]);

/** The finer tools of a recipe: which of them are at work, and the one that is open. */
export function ToolsPanel({ recipe }: { recipe: RecipeInHand }) {
  const [open, setOpen] = useState<FinerTool | undefined>();
  return (
    <section className="card" aria-label="Finer tools">
      <h2>Finer tools</h2>
      <div className="tool-chips">
        {NAMES.map((name) => (
          <Button
            key={name}
            size="small"
            type={open === name ? 'primary' : 'text'}
            aria-expanded={open === name}
            aria-label={works(recipe.finer, name) ? `${TOOL_NAMES[name]} at work` : TOOL_NAMES[name]}
            onClick={() => setOpen(open === name ? undefined : name)}
          >
            {TOOL_NAMES[name]}
            {works(recipe.finer, name) && <span aria-hidden> ●</span>}
          </Button>
        ))}
      </div>
      {open && <OpenTool key={open} recipe={recipe} name={open} />}
    </section>
  );
}

function OpenTool({ recipe, name }: { recipe: RecipeInHand; name: FinerTool }) {
  const { value, turn, reset } = toolInHand(recipe, name);
  return (
    <Keyframing value={recipe.keyframing}>
      <h2>
        {TOOL_NAMES[name]}
        <span style={{ flex: 1 }} />
        <Switch size="small" checked={value.on} aria-label={`${TOOL_NAMES[name]} on`} onChange={turn} />
        <Button size="small" onClick={reset}>
          Reset
        </Button>
      </h2>
      {EDITORS[name](recipe)}
    </Keyframing>
  );
}
