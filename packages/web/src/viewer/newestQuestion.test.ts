import { expect, it } from 'vitest';
import { NewestQuestion } from './newestQuestion.ts';

/** Who answers when told to, and what has been told. */
function asked() {
  const waiting: { question: string; answer: (error?: Error) => void }[] = [];
  const told: string[] = [];
  const newest = new NewestQuestion<string, string>(
    (question) =>
      new Promise((resolve, reject) =>
        waiting.push({ question, answer: (error) => (error ? reject(error) : resolve(question.toUpperCase())) }),
      ),
    (answer, question) => void told.push(`${String(question)}: ${String(answer)}`),
  );
  const answer = async (error?: Error) => {
    waiting.shift()!.answer(error);
    await new Promise((resolve) => setTimeout(resolve));
  };
  return { newest, told, answer, questions: () => waiting.map((w) => w.question) };
}

it('asks one at a time, then the newest, and tells each answer with its own question', async () => {
  const { newest, told, answer, questions } = asked();
  for (const question of ['a', 'b', 'c']) newest.put(question);
  expect(questions()).toEqual(['a']);
  await answer();
  expect([told, questions()]).toEqual([['a: A'], ['c']]);
  await answer();
  expect([told, questions()]).toEqual([['a: A', 'c: C'], []]);
  newest.put('d');
  expect(questions()).toEqual(['d']);
});
it('tells at once that nothing is asked any more, and then no answer that comes late', async () => {
  const { newest, told, answer, questions } = asked();
  newest.put('a');
  newest.put(undefined);
  expect(told).toEqual(['undefined: undefined']);
  await answer();
  expect([told.length, questions()]).toEqual([1, []]);
  newest.put('b');
  await answer();
  expect(told.at(-1)).toBe('b: B');
});
it('tells that a question failed, and goes on with the newest', async () => {
  const { newest, told, answer } = asked();
  newest.put('a');
  newest.put('b');
  await answer(new Error('no such frame'));
  await answer();
  expect(told).toEqual(['a: undefined', 'b: B']);
});
