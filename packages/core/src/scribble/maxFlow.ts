const NONE = -1;
/** Instead of an arc to a parent: tied to its terminal, or cut loose and not yet taken in again. */
const TERMINAL = -2;
const ORPHAN = -3;

/**
 * The smallest cut between two terminals of a graph (Y. Boykov, V. Kolmogorov, "An Experimental Comparison of
 * Min-Cut/Max-Flow Algorithms for Energy Minimization in Vision", PAMI 2004): two search trees, one from each terminal,
 * grow until they meet; the path is saturated; what that cuts loose is taken in again where possible.
 */
export class MaxFlow {
  readonly #first: Int32Array;
  readonly #next: Int32Array;
  readonly #head: Int32Array;
  /** What an arc can still carry; arc a and a ^ 1 run opposite ways. */
  readonly #rest: Float64Array;
  /** What still comes from the source (> 0) or goes to the sink (< 0). */
  readonly #terminal: Float64Array;
  readonly #parent: Int32Array;
  readonly #inSinkTree: Uint8Array;
  readonly #stamp: Int32Array;
  readonly #distance: Int32Array;
  readonly #isActive: Uint8Array;
  #active: number[] = [];
  #orphans: number[] = [];
  #time = 0;
  #arcs = 0;
  #flow = 0;

  constructor(nodes: number, edges: number) {
    this.#first = new Int32Array(nodes).fill(NONE);
    this.#next = new Int32Array(2 * edges);
    this.#head = new Int32Array(2 * edges);
    this.#rest = new Float64Array(2 * edges);
    this.#terminal = new Float64Array(nodes);
    this.#parent = new Int32Array(nodes).fill(NONE);
    this.#inSinkTree = new Uint8Array(nodes);
    this.#stamp = new Int32Array(nodes);
    this.#distance = new Int32Array(nodes);
    this.#isActive = new Uint8Array(nodes);
  }

  /** Adds to what a node may take from the source and give to the sink, both ≥ 0. */
  addTerminals(node: number, fromSource: number, toSink: number): void {
    const already = this.#terminal[node]!;
    const [source, sink] = already > 0 ? [fromSource + already, toSink] : [fromSource, toSink - already];
    this.#flow += Math.min(source, sink);
    this.#terminal[node] = source - sink;
  }
  /** Joins two nodes; `there` and `back` are what the edge carries each way, ≥ 0. */
  addEdge(a: number, b: number, there: number, back: number): void {
    const arc = this.#arcs;
    this.#arcs += 2;
    this.#head[arc] = b;
    this.#rest[arc] = there;
    this.#next[arc] = this.#first[a]!;
    this.#first[a] = arc;
    this.#head[arc + 1] = a;
    this.#rest[arc + 1] = back;
    this.#next[arc + 1] = this.#first[b]!;
    this.#first[b] = arc + 1;
  }

  /** Whether a node lies on the source's side of the smallest cut; what belongs to neither counts to the sink. */
  isSourceSide = (node: number): boolean => this.#parent[node] !== NONE && this.#inSinkTree[node] === 0;

  /** Finds the cut; gives its capacity, which is the largest flow. */
  solve(): number {
    for (let i = 0; i < this.#terminal.length; i++) {
      if (this.#terminal[i] === 0) continue;
      this.#inSinkTree[i] = this.#terminal[i]! < 0 ? 1 : 0;
      this.#parent[i] = TERMINAL;
      this.#distance[i] = 1;
      this.#activate(i);
    }
    let at = 0;
    while (at < this.#active.length) {
      const node = this.#active[at]!;
      if (this.#parent[node] === NONE) {
        this.#isActive[node] = 0;
        at++;
        continue;
      }
      const meeting = this.#grow(node);
      this.#time++;
      if (meeting === NONE) {
        this.#isActive[node] = 0;
        at++;
      } else {
        this.#augment(meeting);
        this.#adopt();
      }
      if (at > 65536) {
        this.#active = this.#active.slice(at);
        at = 0;
      }
    }
    return this.#flow;
  }

  #activate(node: number): void {
    if (this.#isActive[node]) return;
    this.#isActive[node] = 1;
    this.#active.push(node);
  }

  /** Takes free neighbours into a node's tree; gives the arc from the source's tree to the sink's where they meet. */
  #grow(node: number): number {
    const sink = this.#inSinkTree[node]!;
    for (let arc = this.#first[node]!; arc !== NONE; arc = this.#next[arc]!) {
      if (this.#rest[sink ? arc ^ 1 : arc]! <= 0) continue;
      const other = this.#head[arc]!;
      if (this.#parent[other] === NONE) {
        this.#inSinkTree[other] = sink;
        this.#adoptBy(other, arc ^ 1, node);
        this.#activate(other);
      } else if (this.#inSinkTree[other] !== sink) return sink ? arc ^ 1 : arc;
      else if (this.#stamp[other]! <= this.#stamp[node]! && this.#distance[other]! > this.#distance[node]!)
        this.#adoptBy(other, arc ^ 1, node);
    }
    return NONE;
  }
  #adoptBy(child: number, arc: number, parent: number): void {
    this.#parent[child] = arc;
    this.#stamp[child] = this.#stamp[parent]!;
    this.#distance[child] = this.#distance[parent]! + 1;
  }

  /** Sends as much as it carries along the path through an arc that joins the trees. */
  #augment(meeting: number): void {
    const [parent, head, rest, terminal] = [this.#parent, this.#head, this.#rest, this.#terminal];
    const [from, to] = [head[meeting ^ 1]!, head[meeting]!];
    let most = rest[meeting]!;
    let node = from;
    for (let arc = parent[node]!; arc !== TERMINAL; arc = parent[node]!) {
      most = Math.min(most, rest[arc ^ 1]!);
      node = head[arc]!;
    }
    most = Math.min(most, terminal[node]!);
    node = to;
    for (let arc = parent[node]!; arc !== TERMINAL; arc = parent[node]!) {
      most = Math.min(most, rest[arc]!);
      node = head[arc]!;
    }
    most = Math.min(most, -terminal[node]!);

    rest[meeting] = rest[meeting]! - most;
    rest[meeting ^ 1] = rest[meeting ^ 1]! + most;
    node = from;
    for (let arc = parent[node]!; arc !== TERMINAL; arc = parent[node]!) {
      const above = head[arc]!;
      rest[arc] = rest[arc]! + most;
      rest[arc ^ 1] = rest[arc ^ 1]! - most;
      if (rest[arc ^ 1] === 0) this.#cutLoose(node);
      node = above;
    }
    terminal[node] = terminal[node]! - most;
    if (terminal[node] === 0) this.#cutLoose(node);
    node = to;
    for (let arc = parent[node]!; arc !== TERMINAL; arc = parent[node]!) {
      const above = head[arc]!;
      rest[arc ^ 1] = rest[arc ^ 1]! + most;
      rest[arc] = rest[arc]! - most;
      if (rest[arc] === 0) this.#cutLoose(node);
      node = above;
    }
    terminal[node] = terminal[node]! + most;
    if (terminal[node] === 0) this.#cutLoose(node);
    this.#flow += most;
  }
  #cutLoose(node: number): void {
    this.#parent[node] = ORPHAN;
    this.#orphans.push(node);
  }

  /** Finds new parents for what was cut loose; what finds none is free, and its children are cut loose in turn. */
  #adopt(): void {
    for (let k = 0; k < this.#orphans.length; k++) {
      const node = this.#orphans[k]!;
      const sink = this.#inSinkTree[node]!;
      let best = NONE;
      let nearest = Infinity;
      for (let arc = this.#first[node]!; arc !== NONE; arc = this.#next[arc]!) {
        if (this.#rest[sink ? arc : arc ^ 1]! <= 0) continue;
        const other = this.#head[arc]!;
        if (this.#inSinkTree[other] !== sink || this.#parent[other] === NONE) continue;
        const distance = this.#distanceToTerminal(other);
        if (distance >= nearest) continue;
        [best, nearest] = [arc, distance];
      }
      this.#parent[node] = best;
      if (best !== NONE) {
        this.#stamp[node] = this.#time;
        this.#distance[node] = nearest + 1;
        continue;
      }
      for (let arc = this.#first[node]!; arc !== NONE; arc = this.#next[arc]!) {
        const other = this.#head[arc]!;
        const parent = this.#parent[other]!;
        if (this.#inSinkTree[other] !== sink || parent === NONE) continue;
        if (this.#rest[sink ? arc : arc ^ 1]! > 0) this.#activate(other);
        if (parent >= 0 && this.#head[parent] === node) this.#cutLoose(other);
      }
    }
    this.#orphans.length = 0;
  }
  /** How far up a node's terminal is; Infinity where the way ends at what is cut loose. Remembers it along the way. */
  #distanceToTerminal(start: number): number {
    let length = 0;
    let node = start;
    for (;;) {
      if (this.#stamp[node] === this.#time) {
        length += this.#distance[node]!;
        break;
      }
      const parent = this.#parent[node]!;
      length++;
      if (parent === TERMINAL) {
        this.#stamp[node] = this.#time;
        this.#distance[node] = 1;
        break;
      }
      if (parent === ORPHAN) return Infinity;
      node = this.#head[parent]!;
    }
    let distance = length;
    for (let n = start; this.#stamp[n] !== this.#time; n = this.#head[this.#parent[n]!]!) {
      this.#stamp[n] = this.#time;
      this.#distance[n] = distance--;
    }
    return length;
  }
}
