import { textureWarnings } from '@mellow/core';
import type { InHand } from '../../inhand/inHand.ts';
import { useTexture } from './useTexture.ts';

/** How the piece's surface has come through the recolour, with a plain warning where it has not. */
export function TextureNote({ inHand }: { inHand: InHand }) {
  const figures = useTexture(inHand);
  const times = (v: number) => `×${v.toFixed(2)}`;
  return (
    <div aria-label="Surface" role="group">
      <div className="mono quiet">
        {figures
          ? `weave ${times(figures.localContrast)} · grain ${times(figures.noise)} · highlights ` +
            `${figures.highlightTurnBefore.toFixed(0)}° → ${figures.highlightTurnAfter.toFixed(0)}°`
          : 'weave … · grain … · highlights …'}
      </div>
      {figures && textureWarnings(figures).map((text) => <div key={text}>⚠ {text}</div>)}
    </div>
  );
}
