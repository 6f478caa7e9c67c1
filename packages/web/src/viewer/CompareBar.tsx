import { Button, Dropdown, InputNumber, Popover, Segmented } from 'antd';
import { Activity, Eye, Settings2, SwatchBook } from 'lucide-react';
import { useAppDispatch, useAppSelector } from '../app/store.ts';
import { lookChanged, GROUNDS, SCOPE_PLACES, type ScopePlace } from '../view/lookSlice.ts';
import { recolourTurned, sourceHeld, type RecolourOff } from '../view/handSlice.ts';
import type { InHand } from '../inhand/inHand.ts';
import { KeyTip } from '../keys/KeyTip.tsx';
import { CompareMenu } from './CompareMenu.tsx';
import { LookMenu } from './look/LookMenu.tsx';
import { GalleryButton } from './Gallery.tsx';
import { NumberField } from '../ui/NumberField.tsx';

const OFF_TEXT: Record<RecolourOff, string> = { none: 'Recoloured', piece: 'Piece as it was', all: 'All as it was' };

interface Props {
  inHand: InHand;
  /** There is no room for what the picture is compared with. */
  isShort: boolean;
}
/** How the view is compared with the source, and how it is lit and tinted. */
export function CompareBar({ inHand, isShort }: Props) {
  const dispatch = useAppDispatch();
  const { tint, ground, exposureStops, wipe } = useAppSelector((s) => s.look);
  const held = useAppSelector((s) => s.hand.sourceHeld);
  const off = useAppSelector((s) => s.hand.recolourOff);
  return (
    <>
      <KeyTip id="sourceHeld" title="Hold for the source">
        <Button
          size="small"
          aria-label="Hold: source"
          type={held ? 'primary' : 'text'}
          onPointerDown={() => dispatch(sourceHeld(true))}
          onPointerUp={() => dispatch(sourceHeld(false))}
          onPointerLeave={() => dispatch(sourceHeld(false))}
        >
          <Eye size={15} />
        </Button>
      </KeyTip>
      <KeyTip id="pieceOff" title={`${OFF_TEXT[off]}: the piece’s recolour on and off`}>
        <Button
          size="small"
          type={off === 'none' ? 'text' : 'primary'}
          aria-label={OFF_TEXT[off]}
          aria-pressed={off !== 'none'}
          onClick={() => dispatch(recolourTurned(off === 'all' ? 'all' : 'piece'))}
        >
          <SwatchBook size={15} />
        </Button>
      </KeyTip>
      <CompareMenu inHand={inHand} isShort={isShort} />
      <LookMenu inHand={inHand} />
      <ScopesMenu />
      <GalleryButton inHand={inHand} />
      <Popover
        trigger="click"
        placement="bottomRight"
        title="How it is shown"
        content={
          <div className="numbers" style={{ width: 230 }}>
            <NumberField
              label="Tint"
              value={tint * 100}
              unit="%"
              min={0}
              max={100}
              step={1}
              digits={0}
              neutral={60}
              onDrag={(v) => dispatch(lookChanged({ tint: v / 100 }))}
              onCommit={(v) => dispatch(lookChanged({ tint: v / 100 }))}
            />
            <NumberField
              label="Exposure"
              value={exposureStops}
              unit="stops"
              min={-4}
              max={6}
              step={0.05}
              digits={2}
              neutral={0}
              onDrag={(v) => dispatch(lookChanged({ exposureStops: v }))}
              onCommit={(v) => dispatch(lookChanged({ exposureStops: v }))}
            />
            <span className="quiet">Cut-out on</span>
            <Segmented
              size="small"
              aria-label="Cut-out on"
              options={[...GROUNDS]}
              value={ground}
              onChange={(g) => dispatch(lookChanged({ ground: g }))}
            />
            <span className="quiet">Wipe leans</span>
            <InputNumber
              size="small"
              aria-label="Wipe leans"
              suffix="°"
              value={wipe.deg}
              min={-180}
              max={180}
              controls={false}
              onChange={(deg) => deg !== null && dispatch(lookChanged({ wipe: { ...wipe, deg } }))}
            />
          </div>
        }
      >
        <Button size="small" type={exposureStops === 0 ? 'text' : 'primary'} aria-label="How it is shown">
          <Settings2 size={15} />
          {exposureStops === 0 ? null : `${exposureStops > 0 ? '+' : ''}${exposureStops.toFixed(1)}`}
        </Button>
      </Popover>
    </>
  );
}

const SCOPES_TEXT: Record<ScopePlace, string> = {
  off: 'No scope',
  beside: 'Beside the picture',
  panel: 'In the panel',
};
/** Where scopes stand, if anywhere. */
function ScopesMenu() {
  const dispatch = useAppDispatch();
  const scope = useAppSelector((s) => s.look.scope);
  return (
    <Dropdown
      trigger={['click']}
      menu={{
        selectable: true,
        selectedKeys: [scope.place],
        items: SCOPE_PLACES.map((key) => ({ key, label: SCOPES_TEXT[key] })),
        onClick: ({ key }) => dispatch(lookChanged({ scope: { ...scope, place: key as ScopePlace } })),
      }}
    >
      <KeyTip id="scopes" title="Scopes">
        <Button size="small" type={scope.place === 'off' ? 'text' : 'primary'} aria-label="Scopes">
          <Activity size={15} />
        </Button>
      </KeyTip>
    </Dropdown>
  );
}
