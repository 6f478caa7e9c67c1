import { Button, Dropdown } from 'antd';
import { SquareSplitHorizontal } from 'lucide-react';
import { useAppDispatch, useAppSelector } from '../app/store.ts';
import type { InHand } from '../inhand/inHand.ts';
import { COMPARES, lookChanged, type Against, type Compare } from '../view/lookSlice.ts';

interface Other {
  against: Against;
  label: string;
}
/** Everything that the picture can be compared with, by what it is called. */
function othersOf({ document, piece, colourwayId }: InHand): Other[] {
  const ofPiece = (v: { pieceId: string; colourwayId: string }) =>
    v.pieceId === piece?.id && v.colourwayId === colourwayId;
  return [
    { against: { kind: 'source' }, label: 'The source' },
    { against: { kind: 'layer' }, label: 'The layer’s own matte' },
    ...document.colourways
      .filter((c) => c.value.id !== colourwayId)
      .map(({ value: { id, name } }): Other => ({ against: { kind: 'colourway', id }, label: `Colourway: ${name}` })),
    ...document.versions
      .filter((v) => ofPiece(v.value))
      .map(({ value: { id, name } }): Other => ({ against: { kind: 'version', id }, label: `Version: ${name}` })),
    ...document.stills.map(({ value: { id, name } }): Other => ({
      against: { kind: 'still', id },
      label: `Still: ${name}`,
    })),
  ];
}
const keyOf = (against: Against) => ('id' in against ? `${against.kind} ${against.id}` : against.kind);

interface Props {
  inHand: InHand;
  /** The button says nothing but that it is on; its title says what. */
  isShort: boolean;
}
/** How the picture is compared, and with what. */
export function CompareMenu({ inHand, isShort }: Props) {
  const dispatch = useAppDispatch();
  const { compare, against } = useAppSelector((s) => s.look);
  const others = othersOf(inHand);
  const now = others.find((o) => keyOf(o.against) === keyOf(against)) ?? others[0]!;
  const choose = (key: string) => {
    const other = others.find((o) => keyOf(o.against) === key);
    if (!other) return dispatch(lookChanged({ compare: key as Compare }));
    // who says with what wants to see it
    return dispatch(lookChanged({ against: other.against, compare: compare === 'off' ? 'wipe' : compare }));
  };
  const label = compare === 'off' ? 'Compare' : `${compare}: ${now.label}`;
  return (
    <Dropdown
      trigger={['click']}
      menu={{
        selectable: true,
        selectedKeys: [compare, keyOf(now.against)],
        items: [
          {
            type: 'group',
            label: 'How',
            children: COMPARES.map((key) => ({ key, label: key === 'off' ? 'No comparison' : key })),
          },
          {
            type: 'group',
            label: 'With',
            children: others.map((o) => ({ key: keyOf(o.against), label: o.label })),
          },
        ],
        onClick: ({ key }) => choose(key),
      }}
    >
      <Button
        size="small"
        className="shorten"
        style={{ maxWidth: 180, flexShrink: 0 }}
        icon={<SquareSplitHorizontal size={16} />}
        type={compare === 'off' ? 'text' : 'primary'}
        aria-label="Compare"
        title={label}
      >
        {compare !== 'off' && !isShort && label}
      </Button>
    </Dropdown>
  );
}
