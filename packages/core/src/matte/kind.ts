// What a kind of layer must say of itself to take its place in the table of layers.
import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import type { EncodedPlanes, LinearPlanes } from '../colour/planes.ts';
import type { CarriedFrom, CarriedMask } from '../document/carried.ts';
import type { KeyReads, RangeKey } from '../document/key.ts';
import type { Layer, LayerKind, LayerOf, PlateLayer } from '../document/layer.ts';
import type { LookedAt } from '../scribble/looks.ts';

/** The picture as the layers see it. `scale` is this size over the full resolution. */
export interface MatteSource {
  width: number;
  height: number;
  scale: number;
  /** OKLab of the picture, computed when a key first asks for it. */
  oklab: (reads: KeyReads) => OklabPlanes;
  /** α of a range key straight from the codes, false where OKLab serves as well; left out: it always does. */
  rangeKey?: ((out: Float32Array, key: RangeKey) => boolean) | undefined;
  /** Encoded values (0..1 nominal) of the picture. */
  encoded: (reads: KeyReads) => EncodedPlanes;
  /** Linear light of the balanced picture. */
  light: () => LinearPlanes;
  /** α of a plate on this frame, `width × height`; undefined where the plate has no such frame. */
  plate: (layer: PlateLayer) => Float32Array | undefined;
  /** The balanced picture as the viewer has it, which strokes are drawn on: smaller perhaps, and of fewer bits. */
  seen: () => LookedAt;
  /** What a carried selection found on this frame; undefined where that is not at hand. */
  carried: (from: CarriedFrom) => CarriedMask | undefined;
}

/** Gives a layer's own α; may come from a cache. */
export type LayerMatte = (layer: Layer) => Float32Array;

export interface LayerKindEntry<K extends LayerKind> {
  /** Has it anything to select yet? A layer that has not is left out of the stack. */
  takesPart: (layer: LayerOf<K>) => boolean;
  /**
   * Its own α, before inversion, clean-up and strength, into a plane that is all 0 before. `inner` gives the mattes of
   * a group's layers.
   */
  into: (out: Float32Array, layer: LayerOf<K>, source: MatteSource, inner: LayerMatte) => void;
}
