import { Button, Dropdown } from 'antd';
import { KeyTip } from '../../keys/KeyTip.tsx';
import { ClipboardPaste } from 'lucide-react';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { pastedInto, startingAt } from '../../commands/layers.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { useCommands } from '../../keys/useCommands.ts';
import { layerCopied } from '../../view/handSlice.ts';
import type { Stack } from './useStack.ts';

/** Pastes the copied layer, if there is one; listens for the shortcuts of copying and pasting. */
export function PasteButton({ stack, inHand: { tracks } }: { stack: Stack; inHand: InHand }) {
  const { layer, frame, add, storedLayer } = stack;
  const dispatch = useAppDispatch();
  const clipboard = useAppSelector((s) => s.hand.clipboard);
  const isKeyframeChosen = useAppSelector((s) => s.keyframing.chosen.length > 0);
  const pasted = () =>
    pastedInto(
      clipboard!,
      tracks.map((t) => t.id),
    );
  const paste = () => {
    if (clipboard) add(pasted(), `Paste ${clipboard.name}`);
  };
  const pasteHere = () => add(startingAt(pasted(), frame), `Paste ${clipboard!.name} from frame ${frame}`);
  const copy = () => {
    if (layer && !isKeyframeChosen) dispatch(layerCopied(storedLayer(layer.id) ?? layer));
  };
  const none = layer ? undefined : 'no layer';
  useCommands({
    copyLayer: { run: copy, cannot: none },
    pasteLayer: { run: paste, cannot: clipboard ? undefined : 'nothing copied' },
  });
  if (!clipboard) return null;
  const items = [
    { key: 'kept', label: 'Paste, frame numbers kept' },
    { key: 'here', label: `Paste, first keyframe on frame ${frame}` },
  ];
  const onClick = ({ key }: { key: string }) => (key === 'kept' ? paste() : pasteHere());
  return (
    <Dropdown trigger={['contextMenu']} menu={{ items, onClick }}>
      <KeyTip id="pasteLayer" title="Paste; right-click to begin its keyframes on this frame">
        <Button
          size="small"
          icon={<ClipboardPaste size={14} />}
          aria-label={`Paste ${clipboard.name}`}
          onClick={paste}
        />
      </KeyTip>
    </Dropdown>
  );
}
