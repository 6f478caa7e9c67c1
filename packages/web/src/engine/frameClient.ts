import { transfer, wrap, type Remote } from 'comlink';
import type { FrameWorker } from './frame.worker.ts';
import type { AnswerOf, ShowTask, Task } from './frameProtocol.ts';
import { isIsolated } from './sharedPictures.ts';
import { ShownCache } from './shownCache.ts';
import { WaitingTasks, type Hand } from './waitingTasks.ts';
import { workerCount } from './workerCount.ts';

/** Memory for computed frames: some 65 of 960 × 540. */
const CACHE_BYTES = 136 * 2 ** 20;

/** Decoded pictures that are prefetched: less than the workers keep, so that none takes the place of another. */
const PREFETCH_BYTES = 76 * 2 ** 20;

/**
 * The first frames that a hand computes take it the longest, for its code is compiled meanwhile: the lead is taken
 * through so many while the hand rests. Of the others it computes none then: whoever takes hold of something has it at
 * once.
 */
const LEADS_FIRST = 6;

/** Frames computed ahead of playback. */
export const AHEAD = 16;
/** Where each needs those around it every hand computes a run of them: so many at least. */
const LEAST_RUN = 4;

const asError = (error: unknown): Error => (error instanceof Error ? error : new Error(String(error)));

/** A worker as a hand. */
class WorkerHand implements Hand {
  readonly #run: Remote<FrameWorker> = wrap(
    new Worker(new URL('./frame.worker.ts', import.meta.url), { type: 'module' }),
  );
  load = 0;
  async ask<T extends Task>(task: T): Promise<AnswerOf[T['kind']]> {
    const isWork = task.kind !== 'load' && task.kind !== 'prefetch';
    if (isWork) this.load++;
    try {
      return (await this.#run(task)) as AnswerOf[T['kind']];
    } finally {
      if (isWork) this.load--;
    }
  }
  /** What either loads the other has too. */
  meet(other: WorkerHand): void {
    const { port1, port2 } = new MessageChannel();
    void this.#run(transfer({ kind: 'meet', port: port1 }, [port1]));
    void other.#run(transfer({ kind: 'meet', port: port2 }, [port2]));
  }
}
/** The page's workers; they share what they load where memory may be shared. */
function workerHands(): [WorkerHand, ...WorkerHand[]] {
  const hands: [WorkerHand, ...WorkerHand[]] = [new WorkerHand()];
  for (let i = 1; i < workerCount(); i++) {
    const hand = new WorkerHand();
    if (isIsolated) for (const each of hands) each.meet(hand);
    hands.push(hand);
  }
  return hands;
}

/**
 * The page's workers. The first, the lead, serves what is on screen, so that it answers at once and holds the frames in
 * hand; the others serve thumbnails, figures and frames ahead of playback.
 */
export class FrameClient {
  readonly #lead: Hand;
  readonly #others: readonly Hand[];
  readonly #run: number;
  #busy = false;
  readonly #shown: ShownCache;
  /** Frames being computed ahead, by key, and those that wait for a free hand. */
  readonly #coming = new Map<string, Promise<void>>();
  #waiting: ShowTask[] = [];
  /** What the lead computes ahead next, before those that wait: it loads it while it computes another. */
  #next: ShowTask | undefined;
  /** What each hand was given last. */
  readonly #last = new Map<Hand, ShowTask>();
  /** Work on the frame in hand that the picture goes before, and work for any of the others. */
  readonly #besides = new WaitingTasks();
  readonly #asked = new WaitingTasks();
  #isBeside = false;
  /** Frames that are computed while the hand rests, and how many of such the lead has computed. */
  #atRest: readonly ShowTask[] = [];
  #leadsFirst = 0;
  /** Pictures that may be needed soon, the soonest first, and how much of them may be loaded yet. */
  #soon: readonly string[] = [];
  #soonBytes = 0;
  #isPrefetching = false;
  /** Frames that could not be computed: nobody is to wait for them. */
  readonly #failed = new Set<string>();
  #latest: { task: ShowTask; turn: number; done: (answer: AnswerOf['show'] | Error) => void } | undefined;
  /** How often a frame was asked for to be shown, and until which of these times all is overtaken by what is shown. */
  #turn = 0;
  #overtaken = 0;

  constructor(lead: Hand, others: readonly Hand[], cacheBytes = CACHE_BYTES) {
    this.#lead = lead;
    this.#others = others;
    this.#run = Math.max(Math.floor(AHEAD / (1 + others.length)), LEAST_RUN);
    this.#shown = new ShownCache(cacheBytes);
  }

  /**
   * Shows a frame; of several asked for while one is computed only the newest is done, the rest are dropped unanswered.
   */
  show(task: ShowTask, done: (answer: AnswerOf['show'] | Error) => void): void {
    const known = this.#shown.get(ShownCache.keyOf(task));
    if (known) {
      this.showNothing();
      return done(known);
    }
    this.#latest = { task, turn: ++this.#turn, done };
    if (!this.#busy) void this.#work();
  }
  /** What was asked for before and is not yet done is not shown any more. */
  showNothing(): void {
    this.#latest = undefined;
    this.#overtaken = this.#turn;
  }
  async #work(): Promise<void> {
    this.#busy = true;
    while (this.#latest) {
      const { task, turn, done } = this.#latest;
      this.#latest = undefined;
      const key = ShownCache.keyOf(task);
      const coming = this.#coming.get(key);
      if (coming) await coming;
      const answer = this.#shown.get(key) ?? (await this.#lead.ask(task).catch(asError));
      if (!(answer instanceof Error)) this.#shown.set(key, answer);
      // a frame that another came before while it was computed is not shown late
      const newer = this.#latest as { task: ShowTask } | undefined;
      const isOvertaken = turn <= this.#overtaken || (newer && this.#shown.has(ShownCache.keyOf(newer.task)));
      if (!isOvertaken) done(answer);
    }
    this.#busy = false;
    this.#doBesides();
    this.#prepareNext();
  }
  /** Can this frame be shown at once (or never)? */
  isReady(task: ShowTask): boolean {
    const key = ShownCache.keyOf(task);
    return this.#shown.has(key) || this.#failed.has(key);
  }
  /** Computes frames ahead of being shown, in order; a new list takes the place of what still waits. */
  ahead(tasks: readonly ShowTask[]): void {
    const wanted = tasks.filter((t) => !this.isReady(t) && !this.#coming.has(ShownCache.keyOf(t)));
    const next = this.#next && ShownCache.keyOf(this.#next);
    this.#next = wanted.find((t) => ShownCache.keyOf(t) === next);
    this.#waiting = wanted.filter((t) => t !== this.#next);
    this.#fill();
  }
  /** The next frame for a hand, of those computed ahead. */
  #takeFor(hand: Hand): ShowTask | undefined {
    if (hand !== this.#lead) {
      const isLeft = this.#busy || this.#waiting.length === 0;
      const left = isLeft ? this.#next : undefined;
      if (left) this.#next = undefined;
      return left ?? this.#choose(hand);
    }
    const task = this.#next ?? this.#choose(hand);
    this.#next = this.#choose(hand);
    if (this.#next) {
      const { frame, around } = this.#next;
      // what cannot be loaded is said when it is computed
      hand.ask({ kind: 'load', frame, ...(around && { around }) }).catch(() => undefined);
    }
    return task;
  }
  /**
   * Takes a frame that waits: the first; of those that need the frames around them, the one after the last that this
   * hand was given, for it has loaded most of what that needs, else none that so belongs to another.
   */
  #choose(hand: Hand): ShowTask | undefined {
    const waiting = this.#waiting;
    /** Is it the frame after the one that the hand was given last? */
    const isNext = (of: Hand, task: ShowTask) =>
      this.#last.get(of)?.around?.some((a) => a.off === 1 && a.frame.url === task.frame.url) ?? false;
    let at = 0;
    if (waiting[0]?.around?.length) {
      const own = waiting.findIndex((task) => isNext(hand, task));
      const isAnothers = [this.#lead, ...this.#others].some((each) => each !== hand && isNext(each, waiting[0]!));
      if (own >= 0) at = own;
      else if (isAnothers) at = Math.min(this.#run, waiting.length - 1);
    }
    const [task] = waiting.splice(at, 1);
    if (task) this.#last.set(hand, task);
    return task;
  }
  #fill(): void {
    this.#fillAhead();
    for (let hand = this.#freeHand(); hand; hand = this.#freeHand()) {
      const next = this.#asked.next();
      if (!next) break;
      void next(hand).finally(() => this.#fill());
    }
    this.#prepareNext();
  }
  #fillAhead(): void {
    while (this.#next ?? this.#waiting.length > 0) {
      // the lead takes one at a time: it must be free again soon for what a hand moves
      const hand = this.#freeHand() ?? (this.#lead.load === 0 && !this.#busy ? this.#lead : undefined);
      if (!hand) return;
      void this.#computeAhead(hand, this.#takeFor(hand)!).finally(() => this.#fill());
    }
  }
  #computeAhead(hand: Hand, task: ShowTask): Promise<void> {
    const key = ShownCache.keyOf(task);
    const coming = hand
      .ask(task)
      .then(
        (answer) => this.#shown.set(key, answer),
        () => void this.#failed.add(key),
      )
      .finally(() => this.#coming.delete(key));
    this.#coming.set(key, coming);
    return coming;
  }
  /**
   * Has frames computed and then pictures decoded, in order, when there is nothing else to do: what is likely to be
   * looked at next. A new list takes the place of what still waits.
   */
  prepare(frames: readonly ShowTask[], urls: readonly string[]): void {
    this.#atRest = frames;
    this.#soon = urls;
    this.#soonBytes = PREFETCH_BYTES;
    this.#prepareNext();
  }
  #prepareNext(): void {
    if (this.#busy) return;
    const idle = this.#others.find((each) => each.load === 0);
    const hand = idle ?? (this.#leadsFirst < LEADS_FIRST && this.#lead.load === 0 ? this.#lead : undefined);
    this.#atRest = this.#atRest.filter((t) => !this.isReady(t) && !this.#coming.has(ShownCache.keyOf(t)));
    const [task, ...later] = this.#atRest;
    // while frames are computed the pictures of those behind them are decoded
    if (idle ?? task) this.#prefetchNext(idle ?? this.#others[0]!);
    if (!hand || !task) return;
    this.#atRest = later;
    if (hand === this.#lead) this.#leadsFirst++;
    void this.#computeAhead(hand, task).finally(() => this.#fill());
    this.#prepareNext();
  }
  #prefetchNext(hand: Hand): void {
    const [url, ...later] = this.#soon;
    if (url === undefined || this.#soonBytes <= 0 || this.#isPrefetching) return;
    this.#soon = later;
    this.#isPrefetching = true;
    void hand
      .ask({ kind: 'prefetch', url })
      .then(
        ({ bytes }) => void (this.#soonBytes -= bytes),
        // said when it is needed
        () => undefined,
      )
      .finally(() => {
        this.#isPrefetching = false;
        this.#prepareNext();
      });
  }
  /** The one of the others with the least to do: one task is computed while the next one's frame is loaded. */
  #freeHand(): Hand | undefined {
    const least = this.#others.reduce((best, each) => (each.load < best.load ? each : best));
    return least.load < 2 ? least : undefined;
  }
  #doBesides(): void {
    if (this.#busy || this.#isBeside) return;
    const next = this.#besides.next();
    if (!next) return;
    this.#isBeside = true;
    void next(this.#lead).finally(() => {
      this.#isBeside = false;
      this.#doBesides();
    });
  }
  /**
   * Any other work, in order, behind frames ahead of playback. Rejects with the signal's reason when it is no longer
   * wanted; what has not been begun by then is not done.
   */
  ask<T extends Task>(task: T, signal?: AbortSignal): Promise<AnswerOf[T['kind']]> {
    const answer = this.#asked.add(task, signal);
    this.#fill();
    return answer;
  }
  /**
   * Work on the frame in hand, where it is already decoded, when no picture is waited for: one at a time, so that the
   * next picture waits for one at the most. Rejects as `ask` does.
   */
  askBesides<T extends Task>(task: T, signal?: AbortSignal): Promise<AnswerOf[T['kind']]> {
    const answer = this.#besides.add(task, signal);
    this.#doBesides();
    return answer;
  }
  /** What a hand has asked for on the frame in hand and waits for. */
  askLead<T extends Task>(task: T): Promise<AnswerOf[T['kind']]> {
    return this.#lead.ask(task);
  }
}
let client: FrameClient | undefined;
/** The page's one client; its workers are started when the first picture is asked for. */
export function frameClient(): FrameClient {
  if (client) return client;
  const [lead, ...others] = workerHands();
  client = new FrameClient(lead, others);
  return client;
}
