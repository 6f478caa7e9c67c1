import type { Finer, FinerTool } from '../document/finer.ts';
import { NEUTRAL_FINER } from '../recolour/neutralFiner.ts';
import { compile, type Program } from '../recolour/program.ts';
import { NEUTRAL_RECIPE } from '../recolour/shift.ts';

/** Finer tools of which some are on, each with some of its numbers set. */
export const tools = (set: { [K in FinerTool]?: Partial<Finer[K]> }): Finer => ({
  ...NEUTRAL_FINER,
  ...(Object.fromEntries(
    Object.entries(set).map(([name, numbers]) => [name, { ...NEUTRAL_FINER[name as FinerTool], on: true, ...numbers }]),
  ) as Partial<Finer>),
});
/** A recipe of these tools and nothing else, compiled. */
export const toolProgram = (set: Parameters<typeof tools>[0], more: Partial<typeof NEUTRAL_RECIPE> = {}): Program =>
  compile({ ...NEUTRAL_RECIPE, ...more, finer: tools(set) });
