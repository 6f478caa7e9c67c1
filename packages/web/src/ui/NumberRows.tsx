import { NumberField } from './NumberField.tsx';

/** How one number of an object is shown. `scale`: what is shown for 1. */
export interface NumberRow<K extends string> {
  key: K;
  label: string;
  unit: string;
  min: number;
  max: number;
  step: number;
  digits: number;
  scale?: number;
  /** Over what its bar stands, where that is less than what can be typed. */
  useful?: readonly [number, number];
}
interface Props<K extends string> {
  rows: readonly NumberRow<K>[];
  values: Readonly<Record<K, number>>;
  neutral: Readonly<Record<K, number>>;
  /** The object's dotted name, where its numbers may have keyframes. */
  of?: string;
  /** What a screen reader and the history call a number; its label where nothing is said. */
  nameOf?: (label: string) => string;
  onDrag: (key: K, value: number) => void;
  onCommit: (key: K, value: number, name: string) => void;
}

/** The numbers of an object, a row each. */
export function NumberRows<K extends string>(props: Props<K>) {
  const { rows, values, neutral, of, nameOf, onDrag, onCommit } = props;
  return rows.map(({ key, scale = 1, ...row }) => {
    const name = nameOf?.(row.label) ?? row.label;
    return (
      <NumberField
        key={key}
        {...row}
        {...(of && { animates: `${of}.${key}` })}
        name={name}
        value={values[key] * scale}
        neutral={neutral[key] * scale}
        onDrag={(v) => onDrag(key, v / scale)}
        onCommit={(v) => onCommit(key, v / scale, name)}
      />
    );
  });
}
