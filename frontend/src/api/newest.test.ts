import { expect, it } from 'vitest';
import { newest } from './newest';

it('leaves out an answer that was overtaken by a newer one', async () => {
  const taken: string[] = [];
  const take = newest<string>((answer) => taken.push(answer));
  let late: (answer: string) => void = () => {};
  const first = take(new Promise((done) => (late = done)));
  await take(Promise.resolve('second'));
  late('first');
  await first;
  expect(taken).toEqual(['second']);
  await take(Promise.resolve('third'));
  expect(taken).toEqual(['second', 'third']);
});
