import { textureWarnings } from '@mellow/core';
import type { InHand } from '../../inhand/inHand.ts';
import { Fold } from '../../ui/Fold.tsx';
import { useTexture } from './useTexture.ts';

const times = (v: number): string => `×${v.toFixed(2)}`;

/** How the piece's surface has come through the recolour; a warning stands outside the fold. */
export function SurfaceFold({ inHand }: { inHand: InHand }) {
  const figures = useTexture(inHand);
  const warnings = figures ? textureWarnings(figures) : [];
  return (
    <>
      {warnings.map((text) => (
        <div key={text}>⚠ {text}</div>
      ))}
      <Fold title="Surface" says={figures ? undefined : 'being measured'} label="Surface">
        {figures && (
          <div className="mono quiet">
            weave {times(figures.localContrast)} · grain {times(figures.noise)} · highlights{' '}
            {figures.highlightTurnBefore.toFixed(0)}° → {figures.highlightTurnAfter.toFixed(0)}°
          </div>
        )}
      </Fold>
    </>
  );
}
