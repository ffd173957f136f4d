import { expect, it } from 'vitest';
import { gathered } from './gathered';

it('what comes in one go is sent together and in order, what comes later by itself', async () => {
  const sent: number[][] = [];
  const tell = gathered<number>((all) => sent.push(all));
  const turn = () => new Promise((done) => setImmediate(done));
  for (const one of [1, 2, 3]) tell(one);
  expect(sent).toEqual([]);
  await turn();
  tell(4);
  await turn();
  await turn();
  expect(sent).toEqual([[1, 2, 3], [4]]);
});
