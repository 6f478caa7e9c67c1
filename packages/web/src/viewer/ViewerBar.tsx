import { Button, Segmented, Select } from 'antd';
import { Maximize } from 'lucide-react';
import { useRef } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.ts';
import { toolChosen, type ToolName } from '../view/handSlice.ts';
import { lookChanged, VIEWS } from '../view/lookSlice.ts';
import type { InHand } from '../inhand/inHand.ts';
import { useRoving } from '../ui/useRoving.ts';
import { useIsNarrow } from '../ui/useIsNarrow.ts';
import { KeyTip } from '../keys/KeyTip.tsx';
import { CompareBar } from './CompareBar.tsx';
import { useFeed } from '../inhand/feed.ts';
import { zoomFeed } from './pointerFeeds.ts';
import { TOOL_TABLE } from './toolTable.tsx';

interface Props {
  inHand: InHand;
  /** The tools that there is something to do for. */
  tools: readonly ToolName[];
  onFit: () => void;
  onFullSize: () => void;
}

/** What is compared with is named in the bar, px. */
const COMPARED = 160;
/** More than this is the zoom of no picture yet. */
const MOST_ZOOM = 100;

/** Tools, ways of looking, comparison and zoom above the picture. */
export function ViewerBar({ inHand, tools, onFit, onFullSize }: Props) {
  const dispatch = useAppDispatch();
  const view = useAppSelector((s) => s.look.view);
  const bar = useRef<HTMLDivElement>(null);
  const isCompared = useAppSelector((s) => s.look.compare !== 'off');
  const isNarrow = useIsNarrow(bar, (tools.length > 4 ? 860 : 560) + (isCompared ? COMPARED : 0));
  const isShort = useIsNarrow(bar, (tools.length > 4 ? 700 : 400) + COMPARED);
  return (
    <div className="viewerbar" ref={bar}>
      {tools.length > 0 && <ToolButtons tools={tools} />}
      {isNarrow ? (
        <Select
          size="small"
          options={VIEWS.map((value) => ({ value, label: value }))}
          value={view}
          onChange={(chosen) => dispatch(lookChanged({ view: chosen }))}
          aria-label="View"
        />
      ) : (
        <Segmented
          size="small"
          options={[...VIEWS]}
          value={view}
          onChange={(chosen) => dispatch(lookChanged({ view: chosen }))}
          aria-label="View"
        />
      )}
      <CompareBar inHand={inHand} isShort={isShort} />
      <span style={{ flex: 1 }} />
      <KeyTip id="fit" title="Fit">
        <Button size="small" type="text" aria-label="Fit" onClick={onFit}>
          <Maximize size={15} />
        </Button>
      </KeyTip>
      <OneToOne onFullSize={onFullSize} />
    </div>
  );
}

/** Says how large the picture is shown, and shows it at full size. */
function OneToOne({ onFullSize }: Pick<Props, 'onFullSize'>) {
  const zoom = useFeed(zoomFeed);
  const now = zoom === 0 || zoom > MOST_ZOOM ? undefined : `${Math.round(zoom * 100)} %`;
  return (
    <KeyTip id="fullSize" title="One picture pixel on one of the screen">
      <Button size="small" type="text" aria-label={now ? `1:1, now ${now}` : '1:1'} onClick={onFullSize}>
        <span className="mono" style={{ display: 'inline-block', width: '5ch', whiteSpace: 'nowrap' }}>
          {now ?? '1:1'}
        </span>
      </Button>
    </KeyTip>
  );
}

function ToolButtons({ tools }: { tools: readonly ToolName[] }) {
  const dispatch = useAppDispatch();
  const chosen = useAppSelector((s) => s.hand.tool);
  const group = useRoving<HTMLSpanElement>();
  return (
    <span ref={group} className="tools" role="toolbar" aria-label="Tools">
      {tools.map((tool) => {
        const { label, help, command, icon, standsFor = [tool] } = TOOL_TABLE[tool];
        if (standsFor.length === 0) return null;
        const isChosen = standsFor.includes(chosen);
        return (
          <KeyTip key={tool} id={command} title={help ? `${label}: ${help}` : label}>
            <Button
              size="small"
              aria-label={label}
              aria-pressed={isChosen}
              type={isChosen ? 'primary' : 'text'}
              onClick={() => dispatch(toolChosen(tool))}
            >
              {icon}
            </Button>
          </KeyTip>
        );
      })}
    </span>
  );
}
