import type { CodePicture } from '@mellow/core';
import type { AroundTask } from './renderProtocol.ts';

/** A decoded frame with what goes with it, as steadied mattes take it. */
export interface Windowed extends AroundTask {
  at: number;
}

/**
 * Frames in order, numbered from `first`, each with those up to `reach` before and after it: no more than
 * 2 · reach + 1 are held. `task` gives what goes with a frame and is asked once for each, in order.
 */
export async function* withAround(
  frames: AsyncIterable<CodePicture>,
  reach: number,
  task: (at: number) => Promise<Omit<AroundTask, 'codes'>>,
  first = 0,
): AsyncGenerator<Windowed & { around: { off: number; frame: AroundTask }[] | undefined }> {
  const held: Windowed[] = [];
  let next = first;
  const near = ({ at: _at, ...task }: Windowed): AroundTask => task;
  const windowed = (at: number) => ({
    ...held.find((h) => h.at === at)!,
    around:
      reach === 0
        ? undefined
        : held
            .filter((h) => h.at !== at && Math.abs(h.at - at) <= reach)
            .map((h) => ({ off: h.at - at, frame: near(h) })),
  });
  let decoded = first;
  for await (const codes of frames) {
    held.push({ at: decoded, codes, ...(await task(decoded)) });
    decoded++;
    if (decoded - 1 - next < reach) continue;
    yield windowed(next++);
    while (held.length > 0 && held[0]!.at < next - reach) held.shift();
  }
  while (next < decoded) yield windowed(next++);
}
