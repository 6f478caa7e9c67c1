import { Button, Dropdown } from 'antd';
import { SunMedium } from 'lucide-react';
import { surroundChosen } from '../view/roomSlice.ts';
import { useAppDispatch, useAppSelector } from './store.ts';
import { SURROUNDS, type Surround } from './theme.ts';

const ITEMS = Object.entries(SURROUNDS).map(([key, s]) => ({ key, label: `${s.label} room` }));

/** How bright the room is that the screen fits into. */
export function RoomMenu() {
  const dispatch = useAppDispatch();
  const surround = useAppSelector((s) => s.surround);
  const onClick = ({ key }: { key: string }) => dispatch(surroundChosen(key as Surround));
  return (
    <Dropdown menu={{ selectable: true, selectedKeys: [surround], items: ITEMS, onClick }}>
      <Button size="small" type="text" aria-label="Room brightness">
        <SunMedium size={16} />
      </Button>
    </Dropdown>
  );
}
