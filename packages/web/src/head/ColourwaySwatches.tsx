import { Button, Dropdown, Tooltip } from 'antd';
import { Plus } from 'lucide-react';
import type { Colourway } from '@mellow/contract';
import { useAppDispatch } from '../app/store.ts';
import { duplicateColourway, removeColourway } from '../commands/colourways.ts';
import { documentOf, edit } from '../editing/editing.ts';
import type { InHand } from '../inhand/inHand.ts';
import { useCommands } from '../keys/useCommands.ts';
import { requiredHex } from '../ui/colour.ts';
import { dialogOpened } from '../view/dialogSlice.ts';
import { moved } from '../view/whereSlice.ts';

/** The colourways as what they require of the piece in hand; one click turns the whole project. */
export function ColourwaySwatches({ inHand }: { inHand: InHand }) {
  const { document, piece, colourwayId } = inHand;
  const dispatch = useAppDispatch();
  const projectId = document.project.value.id;
  const ways = document.colourways.map((c) => c.value);
  const own = ways.find((c) => c.id === colourwayId);
  const turn = (id: Colourway['id']) => dispatch(moved({ colourwayId: id }));
  const actsOf = (way: Colourway): Record<string, () => void> => ({
    rename: () => dispatch(dialogOpened({ kind: 'renameColourway', id: way.id })),
    duplicate() {
      const { change, id } = duplicateColourway(documentOf(projectId) ?? document, way);
      edit(projectId, change);
      turn(id);
    },
    remove: () => edit(projectId, removeColourway(way)),
  });
  const open = () => dispatch(dialogOpened({ kind: 'newColourway' }));
  const last = ways.length < 2 ? 'it is the only one' : undefined;
  useCommands({
    newColourway: { run: open },
    nextColourway: {
      run: () => turn(ways[(ways.findIndex((c) => c.id === colourwayId) + 1) % ways.length]!.id),
      cannot: last,
    },
    ...(own && {
      renameColourway: { run: actsOf(own).rename!, name: `Rename the colourway ${own.name}` },
      duplicateColourway: { run: actsOf(own).duplicate!, name: `Duplicate the colourway ${own.name}` },
      removeColourway: { run: actsOf(own).remove!, name: `Remove the colourway ${own.name}`, cannot: last },
    }),
  });
  const required = (way: Colourway) =>
    requiredHex(
      document.requirements.find((r) => r.value.pieceId === piece?.id && r.value.colourwayId === way.id)?.value,
    );
  return (
    <div className="colourways" role="radiogroup" aria-label="Colourway">
      {ways.map((way) => (
        <Dropdown
          key={way.id}
          trigger={['contextMenu']}
          menu={{
            items: [
              { key: 'rename', label: `Rename ${way.name} …` },
              { key: 'duplicate', label: 'Duplicate with requirements and recipes' },
              { key: 'remove', label: `Remove ${way.name}`, disabled: ways.length < 2 },
            ],
            onClick: ({ key }) => actsOf(way)[key]!(),
          }}
        >
          <label className={`colourway ${way.id === colourwayId ? 'chosen' : ''}`}>
            <Tooltip title={`Colourway ${way.name}`}>
              <input
                type="radio"
                name="colourway"
                checked={way.id === colourwayId}
                aria-label={way.name}
                onChange={() => turn(way.id)}
              />
            </Tooltip>
            <i style={{ background: required(way) ?? 'transparent' }} />
          </label>
        </Dropdown>
      ))}
      <span className="quiet shorten colourway-name">{own?.name}</span>
      <Tooltip title="New colourway">
        <Button size="small" type="text" aria-label="New colourway" onClick={open}>
          <Plus size={14} />
        </Button>
      </Tooltip>
    </div>
  );
}
