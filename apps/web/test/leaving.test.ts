import { endTracked } from '../src/api/work.ts';
import { leaveUpload } from '../src/features/data/load/upload.ts';

/** A server that answers one call after another as it is told here; `lost` is one that does not. */
function serverOf(answers: Readonly<Record<string, readonly (number | object | 'lost')[]>>): { readonly asked: string[] } {
  const left = new Map(Object.entries(answers).map(([call, list]) => [call, [...list]]));
  const asked: string[] = [];
  const fetch = (address: string, { method = 'GET' }: RequestInit = {}) => {
    const call = `${method} ${new URL(address, 'http://here').pathname.replace('/api', '')}`;
    asked.push(call);
    const list = left.get(call) ?? [];
    const answer = list.length > 1 ? list.shift()! : (list[0] ?? 404);
    if (answer === 'lost') return Promise.reject(new TypeError('Failed to fetch'));
    return Promise.resolve(typeof answer === 'number' ? new Response(null, { status: answer }) : Response.json(answer));
  };
  Object.assign(globalThis, { fetch });
  return { asked };
}
const before = globalThis.fetch;
afterAll(() => void Object.assign(globalThis, { fetch: before }));

describe('what is to end is asked for by its name', () => {
  test('until the server knows of it', async () => {
    const { asked } = serverOf({ 'DELETE /work/t': [404, 404, 204] });
    expect(await endTracked('t', () => true)).toBe('asked');
    expect(asked).toHaveLength(3);
  });
  test('or until the answer to it has come', async () => {
    serverOf({ 'DELETE /work/t': [404] });
    let times = 0;
    expect(await endTracked('t', () => times++ < 2)).toBe('over');
  });
  test('and where the server does not answer, that is told', async () => {
    serverOf({ 'DELETE /work/t': ['lost'] });
    expect(await endTracked('t', () => true)).toBe('lost');
  });
});

describe('a file is not sent any further', () => {
  const left = async (answers: Parameters<typeof serverOf>[0], isUnderWay = () => true) => {
    serverOf(answers);
    const abort = new AbortController();
    await leaveUpload('t', abort, isUnderWay);
    return abort.signal.aborted ? (abort.signal.reason as string) : 'sent on';
  };
  test.each<[string, string, Parameters<typeof serverOf>[0]]>([
    ['where the server is to leave it and has it not whole yet', 'cancelled', { 'DELETE /work/t': [204], 'GET /imports/t': [{ phase: 'receiving' }] }],
    ['where the server is away', 'lost', { 'DELETE /work/t': ['lost'] }],
    ['but waited for where it is being stored: the answer tells what became of it', 'sent on', { 'DELETE /work/t': [204], 'GET /imports/t': [{ phase: 'storing' }] }],
    ['nor where it has ended at that moment', 'sent on', { 'DELETE /work/t': [204], 'GET /imports/t': [404] }],
    ['nor where nobody can tell how far it is', 'sent on', { 'DELETE /work/t': [204], 'GET /imports/t': ['lost'] }],
  ])('%s', async (_, outcome, answers) => expect(await left(answers)).toBe(outcome)); // prettier-ignore
  test('nor where its answer has come already', async () => {
    expect(await left({ 'DELETE /work/t': [404] }, () => false)).toBe('sent on');
  });
});
