import { BandCurves } from './BandCurves.tsx';
import type { ToolInHand } from './useTool.ts';

export function BandsTool({ tool }: { tool: ToolInHand<'bands'> }) {
  return <BandCurves of="finer.bands" name="Bands" value={tool.value} neutral={tool.neutral} onSet={tool.set} />;
}
