import { DragDropProvider } from '@dnd-kit/react';
import { isSortable, useSortable } from '@dnd-kit/react/sortable';
import type { Layer } from '@mellow/contract';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { useRoving } from '../../ui/useRoving.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { moved } from '../../view/whereSlice.ts';
import { duplicated, movedBy } from '../../commands/layers.ts';
import { useCommands } from '../../keys/useCommands.ts';
import { LayerCard } from './LayerCard.tsx';
import type { Stack } from './useStack.ts';

/** The stack, top first; a card is dragged by its grip to another place. */
export function StackList({ stack, inHand }: { stack: Stack; inHand: InHand }) {
  const { layers, stored, save, layer } = stack;
  const dispatch = useAppDispatch();
  const soloId = useAppSelector((s) => s.where.soloId);
  const at = stored.findIndex((l) => l.id === layer?.id);
  const none = layer ? undefined : 'no layer';
  useCommands({
    duplicateLayer: {
      run: () => save(`Duplicate ${layer!.name}`, duplicated(stored, at)),
      name: layer && `Duplicate ${layer.name}`,
      cannot: none,
    },
    soloLayer: {
      run: () => dispatch(moved({ soloId: soloId === layer!.id ? null : layer!.id })),
      name: layer && `Show ${layer.name} alone`,
      isOn: soloId === layer?.id,
      cannot: none,
    },
  });
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
