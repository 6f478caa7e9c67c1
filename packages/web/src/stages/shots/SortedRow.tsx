import { useSortable } from '@dnd-kit/react/sortable';
import { GripVertical } from 'lucide-react';
import { createContext, use, type ComponentProps } from 'react';

/** The rows' places, by their key; and a grip's way to its row. */
export const Places = createContext<ReadonlyMap<string, number>>(new Map());
const Grip = createContext<((element: Element | null) => void) | undefined>(undefined);

/** A row of the table that is dragged by its grip. */
export function SortedRow(props: ComponentProps<'tr'> & { 'data-row-key'?: string }) {
  const id = props['data-row-key'];
  const at = use(Places).get(id ?? '');
  // the line that stands for an empty table is none of the rows
  return id === undefined || at === undefined ? <tr {...props} /> : <Sorted {...props} id={id} at={at} />;
}
function Sorted({ id, at, style, ...props }: ComponentProps<'tr'> & { id: string; at: number }) {
  const { ref, handleRef, isDragging } = useSortable({ id, index: at });
  return (
    <Grip value={handleRef}>
      <tr {...props} ref={ref} style={{ ...style, opacity: isDragging ? 0.6 : 1 }} />
    </Grip>
  );
}
export function RowGrip({ name }: { name: string }) {
  return (
    <button type="button" className="grip" ref={use(Grip)} aria-label={`Drag ${name} to another place`}>
      <GripVertical size={15} />
    </button>
  );
}
