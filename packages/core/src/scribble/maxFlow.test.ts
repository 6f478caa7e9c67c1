import { expect, it } from 'vitest';
import { seededRandom } from '../track/random.ts';
import { MaxFlow } from './maxFlow.ts';

interface Graph {
  nodes: number;
  terminals: [fromSource: number, toSink: number][];
  edges: [a: number, b: number, there: number, back: number][];
}
function solved({ nodes, terminals, edges }: Graph): { flow: number; isSource: boolean[] } {
  const graph = new MaxFlow(nodes, edges.length);
  terminals.forEach(([s, t], i) => graph.addTerminals(i, s, t));
  for (const edge of edges) graph.addEdge(...edge);
  const flow = graph.solve();
  return { flow, isSource: Array.from({ length: nodes }, (_, i) => graph.isSourceSide(i)) };
}
/** What a cut costs: all that leads from the source's side to the sink's. */
function capacityOf({ terminals, edges }: Graph, isSource: readonly boolean[]): number {
  let sum = 0;
  terminals.forEach(([s, t], i) => (sum += isSource[i] ? t : s));
  for (const [a, b, there, back] of edges) {
    if (isSource[a] && !isSource[b]) sum += there;
    if (isSource[b] && !isSource[a]) sum += back;
  }
  return sum;
}
function randomGraph(nodes: number, edges: number, seed: number): Graph {
  const random = seededRandom(seed);
  const amount = () => (random() < 0.3 ? 0 : Math.floor(random() * 20));
  return {
    nodes,
    terminals: Array.from({ length: nodes }, () => [amount(), amount()]),
    edges: Array.from({ length: edges }, () => {
      const a = Math.floor(random() * nodes);
      return [a, (a + 1 + Math.floor(random() * (nodes - 1))) % nodes, amount(), amount()];
    }),
  };
}

it(
  'finds the flow of 23 of the textbook’s network (Cormen et al., “Introduction to ' +
    'Algorithms”, figure 26.1; from memory)',
  () => {
    const { flow } = solved({
      nodes: 4,
      terminals: [
        [16, 0],
        [13, 0],
        [0, 20],
        [0, 4],
      ],
      edges: [
        [0, 2, 12, 0],
        [1, 0, 4, 0],
        [2, 1, 9, 0],
        [1, 3, 14, 0],
        [3, 2, 7, 0],
      ],
    });
    expect(flow).toBe(23);
  },
);
it.each(Array.from({ length: 30 }, (_, seed) => seed))(
  'cuts a random graph as cheaply as the best of all cuts, tried one by one (seed %i)',
  (seed) => {
    const graph = randomGraph(9, 22, seed);
    const { flow, isSource } = solved(graph);
    let least = Infinity;
    for (let bits = 0; bits < 2 ** graph.nodes; bits++)
      least = Math.min(
        least,
        capacityOf(
          graph,
          Array.from({ length: graph.nodes }, (_, i) => (bits & (1 << i)) !== 0),
        ),
      );
    expect(flow).toBe(least);
    expect(capacityOf(graph, isSource)).toBe(least);
  },
);
it('on graphs too large for that its flow equals its cut, which proves both (Ford & Fulkerson 1956)', () => {
  for (let seed = 1; seed <= 5; seed++) {
    const graph = randomGraph(3000, 12000, seed);
    const { flow, isSource } = solved(graph);
    expect(capacityOf(graph, isSource)).toBe(flow);
    expect(isSource).toContain(true);
    expect(isSource).toContain(false);
  }
});
it('adds up what a node is tied to its terminals by, in several steps', () => {
  const graph = new MaxFlow(2, 1);
  graph.addTerminals(0, 3, 1);
  graph.addTerminals(0, 4, 0);
  graph.addTerminals(1, 0, 2);
  graph.addTerminals(1, 1, 5);
  graph.addEdge(0, 1, 10, 0);
  expect(graph.solve()).toBe(8);
});
