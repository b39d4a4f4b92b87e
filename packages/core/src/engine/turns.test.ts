import { Engine } from './engine.ts';

/** An engine of so many documents that can be asked how often a question let others have their turn. */
function counted(documents: number, isAwaited?: () => boolean) {
  let pauses = 0;
  const pause = () => Promise.resolve(void pauses++);
  const engine = new Engine({ pause, newId: () => 'run', now: () => new Date(), ...(isAwaited && { isAwaited }) });
  const { store } = engine.define('c', '@.id');
  for (let i = 0; i < documents; i++) store.put(i, { id: i, text: `text ${i}` });
  return async (pipeline: string) => {
    pauses = 0;
    const answer = await engine.query({ pipeline: `from c\n${pipeline}`, pageSize: 1 });
    if (!answer.ok) throw new Error(answer.problem.message);
    return pauses;
  };
}

beforeEach(() => {
  // A clock that goes on by being looked at: what is counted is the same on every machine.
  let now = 0;
  jest.spyOn(performance, 'now').mockImplementation(() => (now += 0.05));
});
afterEach(() => jest.restoreAllMocks());

test('who asks for much pauses more often while others are known to wait, and who asks for little does not', async () => {
  const much = 'group by concat(@.text, @.id) as t measure n = count()';
  const [alone, awaited] = [counted(40_000), counted(40_000, () => true)];
  expect(await awaited(much)).toBeGreaterThan((await alone(much)) * 1.5);
  // One document is found before anybody could have waited for it.
  expect(await awaited('where @.id == 9')).toBe(0);
});
