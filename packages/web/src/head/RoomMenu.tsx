import { Button, Dropdown } from 'antd';
import { SunMedium } from 'lucide-react';
import { useAppDispatch, useAppSelector } from '../app/store.ts';
import { SURROUND_NAMES, surroundChosen, TEXT_STEPS, textStepped } from '../view/roomSlice.ts';
import { SURROUNDS } from '../app/theme.ts';

const ROOMS = SURROUND_NAMES.map((key) => ({ key, label: `${SURROUNDS[key].label} room` }));
const TEXTS = TEXT_STEPS.map((name, i) => ({ key: `text ${i}`, label: `Text ${name}` }));
const ITEMS = [...ROOMS, { type: 'divider' as const }, ...TEXTS];

/** How bright the room is that the screen fits into, and how large its text. */
export function RoomMenu() {
  const dispatch = useAppDispatch();
  const { surround, textStep } = useAppSelector((s) => s.room);
  const onClick = ({ key }: { key: string }) => {
    const room = SURROUND_NAMES.find((name) => name === key);
    dispatch(room ? surroundChosen(room) : textStepped(Number(key.slice('text '.length))));
  };
  return (
    <Dropdown
      trigger={['click']}
      menu={{ selectable: true, selectedKeys: [surround, `text ${textStep}`], items: ITEMS, onClick }}
    >
      <Button size="small" type="text" aria-label="Room brightness">
        <SunMedium size={16} />
      </Button>
    </Dropdown>
  );
}
