import type { ProbedColour, ProbedPixel } from '@mellow/core';
import { labText } from '../ui/colour.ts';

const three = (values: readonly number[], digits: number) => values.map((v) => v.toFixed(digits)).join(' ');

/**
 * What lies under the pointer: place, code values, linear light, Lab, α; source above, result below where it differs.
 */
export function ProbeNote({
  at,
  probe,
  scale,
}: {
  at: { x: number; y: number };
  probe: ProbedPixel | undefined;
  scale: number;
}) {
  const line = (name: string, side: ProbedColour) => (
    <div style={{ whiteSpace: 'pre' }}>
      {name} {three(side.codes, 0)} <span className="quiet">lin</span> {three(side.linear, 3)}{' '}
      <span className="quiet">Lab</span> {labText(side.lab)}
    </div>
  );
  return (
    <div data-probe className="probe">
      <div>
        x {Math.floor(at.x)} y {Math.floor(at.y)}
        {probe?.alpha !== undefined && (
          <>
            {' '}
            <span className="quiet">α</span> {probe.alpha.toFixed(3)}
          </>
        )}
        {scale < 1 && <div className="quiet">proxy {Math.round(scale * 100)} %, 8 bit</div>}
      </div>
      <div>
        {probe && line('source', probe.before)}
        {probe?.after && line('result', probe.after)}
      </div>
    </div>
  );
}
