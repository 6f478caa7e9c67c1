import { Button, Progress, Segmented } from 'antd';
import { ChevronLeft, ChevronRight, Footprints, X } from 'lucide-react';
import type { InHand } from '../../inhand/inHand.ts';
import { KeyTip } from '../../keys/KeyTip.tsx';
import { DOUBTFUL, nextDoubtful } from './carriedState.ts';
import { QuickCells } from './QuickCells.tsx';
import type { Carrying } from './useCarrying.ts';
import { useQuickCarry } from './useQuickCarry.ts';

const WAYS = { carried: 'Carried', anew: 'Cut anew on each' } as const;

interface Props {
  inHand: InHand;
  carrying: Carrying;
  frame: number;
}
/** What becomes of a scribble on the frames that it was not drawn on. */
export function CarryPanel({ inHand, carrying, frame }: Props) {
  const { layer, state } = carrying;
  if (!layer) return null;
  return (
    <section aria-label="On other frames">
      <div className="row">
        <span className="grow">On other frames</span>
        <Segmented
          size="small"
          aria-label="On other frames"
          options={Object.values(WAYS)}
          value={state ? WAYS.carried : WAYS.anew}
          onChange={(way) => (way === WAYS.carried ? void carrying.carry() : carrying.cutAnew(layer))}
        />
      </div>
      {state && <Carried inHand={inHand} carrying={carrying} frame={frame} />}
    </section>
  );
}

function Carried({ inHand, carrying, frame }: Props) {
  const { layer, state, job } = carrying;
  const quick = useQuickCarry(inHand, layer, frame);
  if (!state) return null;
  const doubtful = state.certainties.filter((c) => c !== undefined && c < DOUBTFUL).length;
  const [before, after] = [nextDoubtful(state, frame, -1), nextDoubtful(state, frame, 1)];
  return (
    <>
      <div className="row">
        {job ? (
          <>
            <Progress
              className="grow"
              size="small"
              percent={Math.round((100 * job.done) / Math.max(job.total, 1))}
              aria-label="Carrying"
            />
            <Button size="small" type="text" icon={<X size={14} />} aria-label="Stop" onClick={carrying.cancel} />
          </>
        ) : (
          <>
            <KeyTip id="carry" title={state.isDue ? 'Carry from the frames with strokes' : 'Carry all of it anew'}>
              <Button
                size="small"
                type={state.isDue ? 'primary' : 'default'}
                icon={<Footprints size={14} />}
                onClick={() => void carrying.carry(!state.isDue)}
              >
                {state.isDue ? 'Carry' : 'Carry anew'}
              </Button>
            </KeyTip>
            <span className="grow quiet">{told(state.taught.length, state.isDue)}</span>
          </>
        )}
      </div>
      <div className="row">
        <span className="grow">
          {doubtful === 0 ? 'No doubtful frame' : `${doubtful} doubtful ${frames(doubtful)}`}
        </span>
        <KeyTip id="previousDoubtful" title="Doubtful frame before">
          <Button
            size="small"
            type="text"
            icon={<ChevronLeft size={14} />}
            aria-label="Doubtful frame before"
            disabled={before === undefined}
            onClick={() => before !== undefined && carrying.goTo(before)}
          />
        </KeyTip>
        <KeyTip id="nextDoubtful" title="Doubtful frame after">
          <Button
            size="small"
            type="text"
            icon={<ChevronRight size={14} />}
            aria-label="Doubtful frame after"
            disabled={after === undefined}
            onClick={() => after !== undefined && carrying.goTo(after)}
          />
        </KeyTip>
      </div>
      <QuickCells cells={quick} onGo={carrying.goTo} />
      <div className="quiet">
        A stroke on another frame corrects what was carried there; carried again, it holds up to the next frame with
        strokes on either side.
      </div>
    </>
  );
}
const frames = (n: number): string => (n === 1 ? 'frame' : 'frames');
const told = (taught: number, isDue: boolean): string => {
  if (taught === 0) return 'no stroke on any frame yet';
  return `strokes on ${taught} ${frames(taught)}${isDue ? ', changed since' : ''}`;
};
