import { DragDropProvider } from '@dnd-kit/react';
import { isSortable, useSortable } from '@dnd-kit/react/sortable';
import type { Layer } from '@mellow/contract';
import { useAppDispatch } from '../../app/store.ts';
import { useRoving } from '../../ui/useRoving.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { moved } from '../../view/whereSlice.ts';
import { movedBy } from '../../commands/layers.ts';
import { LayerCard } from './LayerCard.tsx';
import type { Stack } from './useStack.ts';

/** The stack, top first; a card is dragged by its grip to another place. */
export function StackList({ stack, inHand }: { stack: Stack; inHand: InHand }) {
  const { layers, stored, save } = stack;
  const group = useRoving<HTMLDivElement>();
  return (
    <div ref={group} className="stack" role="toolbar" aria-orientation="vertical" aria-label="Layers">
      <DragDropProvider
        onDragEnd={({ canceled, operation: { source } }) => {
          if (canceled || !isSortable(source) || source.index === source.initialIndex) return;
          const { initialIndex: from, index: to } = source;
          save(`Move ${stored[from]!.name}`, movedBy(stored, from, to - from));
        }}
      >
        {layers.map((layer, at) => (
          <Sorted key={layer.id} layer={layer} at={at} stack={stack} inHand={inHand} />
        ))}
      </DragDropProvider>
    </div>
  );
}

function Sorted({ layer, at, stack, inHand }: { layer: Layer; at: number; stack: Stack; inHand: InHand }) {
  const { ref, handleRef, isDragging } = useSortable({ id: layer.id, index: at });
  const dispatch = useAppDispatch();
  return (
    <div ref={ref} style={{ opacity: isDragging ? 0.6 : 1 }}>
      <LayerCard
        layer={layer}
        at={at}
        stack={stack}
        inHand={inHand}
        handleRef={handleRef}
        onSelect={() => dispatch(moved({ layerId: layer.id }))}
      />
    </div>
  );
}
