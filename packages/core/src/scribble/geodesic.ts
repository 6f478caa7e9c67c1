/**
 * Length of the shortest way from any of the seeds to each node of a graph (Dijkstra 1959, with a binary heap). `pairs`
 * lists the edges' ends, `cost` their lengths ≥ 0; Infinity where no way leads.
 */
export function geodesicDistances(
  count: number,
  pairs: Int32Array,
  cost: Float64Array,
  seeds: readonly number[],
): Float64Array {
  const { start, edges } = edgesOfNodes(count, pairs);
  const distance = new Float64Array(count).fill(Infinity);
  const heap: { node: number; at: number }[] = [];
  const put = (node: number, at: number) => {
    let i = heap.length;
    heap.push({ node, at });
    for (; i > 0 && heap[(i - 1) >> 1]!.at > at; i = (i - 1) >> 1) heap[i] = heap[(i - 1) >> 1]!;
    heap[i] = { node, at };
  };
  const take = (): { node: number; at: number } => {
    const first = heap[0]!;
    const last = heap.pop()!;
    if (heap.length === 0) return first;
    let i = 0;
    for (let child = 1; child < heap.length; child = 2 * i + 1) {
      if (child + 1 < heap.length && heap[child + 1]!.at < heap[child]!.at) child++;
      if (heap[child]!.at >= last.at) break;
      heap[i] = heap[child]!;
      i = child;
    }
    heap[i] = last;
    return first;
  };
  for (const seed of seeds) {
    distance[seed] = 0;
    put(seed, 0);
  }
  while (heap.length > 0) {
    const { node, at } = take();
    if (at > distance[node]!) continue;
    for (let k = start[node]!; k < start[node + 1]!; k++) {
      const e = edges[k]!;
      const other = pairs[2 * e] === node ? pairs[2 * e + 1]! : pairs[2 * e]!;
      const next = at + cost[e]!;
      if (next >= distance[other]!) continue;
      distance[other] = next;
      put(other, next);
    }
  }
  return distance;
}
/** For each node the edges that end at it: `edges[start[node]]` up to `edges[start[node + 1]]`. */
function edgesOfNodes(count: number, pairs: Int32Array): { start: Int32Array; edges: Int32Array } {
  const start = new Int32Array(count + 1);
  for (const node of pairs) start[node + 1]!++;
  for (let k = 0; k < count; k++) start[k + 1]! += start[k]!;
  const edges = new Int32Array(pairs.length);
  const filled = start.slice();
  pairs.forEach((node, i) => (edges[filled[node]!++] = i >> 1));
  return { start, edges };
}
