// Waiting for long work by what is told of it, not by a clock: how long it takes is the machine's affair, and a machine
// that gives a journey a tenth of a processor is slow, not wrong. Work that stands still is.
import { setTimeout } from 'node:timers/promises';

/** For so long nothing may change in what is told of work under way. */
const STILL = 120_000;

/** Waits until work is finished; fails when nothing told of it has changed for two minutes, and says what stood. */
export async function finished<T>(tell: () => Promise<T>, isFinished: (told: T) => boolean, every = 250): Promise<T> {
  let [before, since] = ['', Date.now()];
  for (;;) {
    const told = await tell();
    if (isFinished(told)) return told;
    const now = JSON.stringify(told);
    if (now !== before) [before, since] = [now, Date.now()];
    else if (Date.now() - since > STILL) throw new Error(`nothing has changed for ${STILL / 1000} s: ${now}`);
    await setTimeout(every);
  }
}
