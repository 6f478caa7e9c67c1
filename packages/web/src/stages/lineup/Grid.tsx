import { useVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, useRef, type ReactNode } from 'react';
import { columnWidth, HEAD_HEIGHT, HEAD_WIDTH, rowHeight, type CellSize } from './lineupLook.ts';
import type { WholeRow } from './sightings.ts';

interface Props {
  rows: readonly WholeRow[];
  columns: readonly { id: string; name: string }[];
  size: CellSize;
  /** Is nothing isolated in a row, or in a column? Those are folded. */
  isEmptyRow: (row: WholeRow) => boolean;
  isEmptyColumn: (column: number) => boolean;
  columnHead: (column: number) => ReactNode;
  rowHead: (row: WholeRow) => ReactNode;
  cell: (row: WholeRow, column: number) => ReactNode;
  children: ReactNode;
}

/** A table with heads that stay in sight; only the cells in sight are there. What follows it scrolls with it. */
export function Grid({ rows, columns, size, isEmptyRow, isEmptyColumn, columnHead, rowHead, cell, children }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const common = { getScrollElement: () => scroller.current, overscan: 1 };
  const across = useVirtualizer({
    ...common,
    horizontal: true,
    count: columns.length,
    estimateSize: (c) => columnWidth(size, isEmptyColumn(c)),
  });
  const down = useVirtualizer({
    ...common,
    count: rows.length,
    estimateSize: (r) => rowHeight(size, isEmptyRow(rows[r]!)),
  });
  const bits = (empty: readonly boolean[]) => empty.map(Number).join('');
  const folded = `${size} ${bits(columns.map((_, c) => isEmptyColumn(c)))} ${bits(rows.map(isEmptyRow))}`;
  useLayoutEffect(() => {
    across.measure();
    down.measure();
    // what is folded decides the sizes
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [folded]);
  const seen = across.getVirtualItems();
  const wide = HEAD_WIDTH + across.getTotalSize();
  return (
    <div className="lineup" ref={scroller}>
      <div
        role="table"
        aria-label="Line-up"
        aria-colcount={columns.length + 1}
        aria-rowcount={rows.length + 1}
        style={{ width: wide, height: HEAD_HEIGHT + down.getTotalSize(), position: 'relative' }}
      >
        <div role="row" className="heads" style={{ height: HEAD_HEIGHT, width: wide }}>
          <div role="columnheader" className="corner" style={{ width: HEAD_WIDTH, height: HEAD_HEIGHT }}>
            Piece
          </div>
          {seen.map(({ index, start, size: width }) => (
            <div
              key={columns[index]!.id}
              role="columnheader"
              aria-label={columns[index]!.name}
              className="column-head"
              style={{ left: HEAD_WIDTH + start, width, height: HEAD_HEIGHT }}
            >
              {columnHead(index)}
            </div>
          ))}
        </div>
        {down.getVirtualItems().map(({ index: r, start: top, size: height }) => {
          const row = rows[r]!;
          return (
            <div
              key={row.piece.id}
              role="row"
              aria-label={row.piece.name}
              className="piece-row"
              style={{ top: HEAD_HEIGHT + top, width: wide, height }}
            >
              <div role="rowheader" className="row-head" style={{ width: HEAD_WIDTH, height }}>
                {rowHead(row)}
              </div>
              {seen.map(({ index, start, size: width }) => (
                <div
                  key={columns[index]!.id}
                  role="cell"
                  data-cell={`${row.piece.name} ${columns[index]!.name}`}
                  style={{ position: 'absolute', top: 0, left: HEAD_WIDTH + start, width, height }}
                >
                  {cell(row, index)}
                </div>
              ))}
            </div>
          );
        })}
      </div>
      {children}
    </div>
  );
}
