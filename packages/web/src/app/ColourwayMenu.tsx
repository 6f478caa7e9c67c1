import { App, Button, Dropdown, Input } from 'antd';
import { EllipsisVertical } from 'lucide-react';
import { addColourway, duplicateColourway, removeColourway, renameColourway } from '../commands/colourways.ts';
import { documentOf, edit } from '../editing/editing.ts';
import type { InHand } from '../inhand/inHand.ts';
import { moved } from '../view/whereSlice.ts';
import { useAppDispatch } from './store.ts';

/** Adds, duplicates, renames and removes colourways. */
export function ColourwayMenu({ inHand: { document, colourwayId } }: { inHand: InHand }) {
  const dispatch = useAppDispatch();
  const { modal } = App.useApp();
  const projectId = document.project.value.id;
  const own = document.colourways.find((c) => c.value.id === colourwayId)?.value;
  const now = () => documentOf(projectId) ?? document;
  const askName = (title: string, initial: string, done: (name: string) => void) => {
    let name = initial;
    modal.confirm({
      title,
      icon: null,
      content: (
        <Input
          autoFocus
          aria-label="Colourway name"
          maxLength={120}
          defaultValue={initial}
          onChange={(e) => (name = e.target.value)}
        />
      ),
      onOk: () => done(name),
    });
  };
  const take = ({ change, id }: ReturnType<typeof addColourway>) => {
    edit(projectId, change);
    dispatch(moved({ colourwayId: id }));
  };
  const ACTS: Record<string, () => void> = {
    add: () => askName('New colourway', '', (name) => take(addColourway(now(), name))),
    duplicate: () => own && take(duplicateColourway(now(), own)),
    rename: () =>
      own && askName('Rename the colourway', own.name, (name) => edit(projectId, renameColourway(own, name))),
    remove: () => own && edit(projectId, removeColourway(own)),
  };
  const items = [
    { key: 'add', label: 'New colourway …' },
    { key: 'duplicate', label: `Duplicate ${own?.name ?? ''}`, disabled: !own },
    { key: 'rename', label: `Rename ${own?.name ?? ''} …`, disabled: !own },
    { key: 'remove', label: `Remove ${own?.name ?? ''}`, disabled: document.colourways.length < 2 },
  ];
  return (
    <Dropdown trigger={['click']} menu={{ items, onClick: ({ key }) => ACTS[key]!() }}>
      <Button size="small" type="text" aria-label="More of the colourway">
        <EllipsisVertical size={14} />
      </Button>
    </Dropdown>
  );
}
