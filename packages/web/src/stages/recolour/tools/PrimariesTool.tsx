import { PrimaryNumbers } from './PrimaryNumbers.tsx';
import type { ToolInHand } from './useTool.ts';

/** Corrections of all the piece's colours alike. */
export function PrimariesTool({ tool }: { tool: ToolInHand<'primaries'> }) {
  return (
    <PrimaryNumbers of="finer.primaries" name="Primaries" value={tool.value} neutral={tool.neutral} onSet={tool.set} />
  );
}
