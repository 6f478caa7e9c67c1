import { Dropdown, type MenuProps } from 'antd';
import { useRef, type MouseEvent, type ReactElement, type RefObject } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.ts';
import { keepStill } from '../commands/judging.ts';
import { documentOf, edit } from '../editing/editing.ts';
import type { InHand } from '../inhand/inHand.ts';
import { usePlace } from '../inhand/useInHand.ts';
import { keysText } from '../keys/keyText.ts';
import { keysOf, type CommandId } from '../keys/keyTable.ts';
import { dialogOpened } from '../view/dialogSlice.ts';
import { lookChanged, VIEWS } from '../view/lookSlice.ts';
import type { Spot } from '@mellow/contract';
import { placeFeed } from './pointerFeeds.ts';
import type { FrameViewer } from './FrameViewer.ts';
import { VIEW_COMMANDS } from './useViewerKeys.ts';

interface Props {
  inHand: InHand;
  viewer: RefObject<FrameViewer | undefined>;
  /** There is a shape in hand, with points or without. */
  hasShape: boolean;
  children: ReactElement;
}
/** What can be done with the picture, and with what of a shape lies under the pointer. */
export function PictureMenu({ inHand, viewer, hasShape, children }: Props) {
  const dispatch = useAppDispatch();
  const view = useAppSelector((s) => s.look.view);
  const compare = useAppSelector((s) => s.look.compare);
  const beside = useAppSelector((s) => s.look.beside);
  const changed = useAppSelector((s) => s.keys);
  const place = usePlace(inHand);
  const at = useRef<MouseEvent['nativeEvent'] | undefined>(undefined);
  const pointed = useRef<ReturnType<typeof placeFeed.newest>>(undefined);
  const projectId = inHand.document.project.value.id;
  const label = (text: string, id?: CommandId) => (
    <span className="menu-key">
      {text}
      {id && <kbd>{keysText(keysOf(id, changed))}</kbd>}
    </span>
  );
  const acts: Record<string, () => void> = {
    point: () => at.current && viewer.current?.doubleAt(at.current),
    remove: () => void viewer.current?.key('Delete'),
    fit: () => viewer.current?.fit(),
    full: () => viewer.current?.zoomTo(1),
    wipe: () => void dispatch(lookChanged({ compare: compare === 'wipe' ? 'off' : 'wipe' })),
    beside: () => void dispatch(lookChanged({ beside: !beside, ...(!beside && { view: 'Matte' as const }) })),
    note: () => {
      const { shot, media, colourwayId } = inHand;
      if (!shot || !media) return;
      const { x, y } = pointed.current ?? { x: -1, y: -1 };
      const isInside = x >= 0 && y >= 0 && x <= media.width && y <= media.height;
      const spot: Spot | null = isInside ? [x / media.width, y / media.height] : null;
      const on = { shotId: shot.id, colourwayId: colourwayId ?? null, frame: place.frame, spot };
      dispatch(dialogOpened({ kind: 'note', on }));
    },
    still: () => edit(projectId, keepStill(documentOf(projectId) ?? inHand.document, place, '')),
  };
  for (const name of VIEWS) acts[name] = () => void dispatch(lookChanged({ view: name }));
  const ofShape = [
    { key: 'point', label: label('Point here: corner or smooth') },
    { key: 'remove', label: label('Delete what is chosen', 'removeChosen') },
    { type: 'divider' as const },
  ];
  const items: MenuProps['items'] = [
    ...(hasShape ? ofShape : []),
    ...VIEWS.map((name) => ({ key: name, label: label(name, VIEW_COMMANDS[name]) })),
    { type: 'divider' },
    { key: 'wipe', label: label(compare === 'wipe' ? 'No wipe' : 'Wipe', 'wipe') },
    { key: 'beside', label: label(beside ? 'Without the frames beside' : 'With the frames beside', 'beside') },
    { key: 'fit', label: label('Fit', 'fit') },
    { key: 'full', label: label('One to one', 'fullSize') },
    { key: 'note', label: label('Note here'), disabled: inHand.shot === undefined },
    { key: 'still', label: label('Keep this frame as a still'), disabled: inHand.shot === undefined },
  ];
  return (
    <Dropdown
      trigger={['contextMenu']}
      menu={{ selectable: true, selectedKeys: [view], items, onClick: ({ key }) => acts[key]!() }}
    >
      <div
        className="viewport"
        onContextMenu={(e) => {
          at.current = e.nativeEvent;
          pointed.current = placeFeed.newest();
        }}
      >
        {children}
      </div>
    </Dropdown>
  );
}
