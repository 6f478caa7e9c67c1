import { within } from '@mellow/contract';
import { useAppSelector } from '../app/store.ts';
import type { InHand } from './inHand.ts';

/** The frame in hand, kept inside the shot; 0 without one. */
export function useFrame({ span }: Pick<InHand, 'span'>): number {
  const frame = useAppSelector((s) => s.where.frame);
  return span ? within(span, frame) : 0;
}
