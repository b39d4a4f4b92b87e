import { Agent, request } from 'node:http';
import { alone } from './compare.mjs';

/** What one document takes over HTTP, asked by its identity of a collection `rate` that is there: node overHttp.mjs ADDRESS DOCUMENTS */
const [address, count] = [process.argv[2], Number(process.argv[3])];
const agent = new Agent({ keepAlive: true });
/** One connection that is kept, and little else on the asking side. */
const ask = (body) =>
  new Promise((resolve, reject) => {
    const headers = { 'content-type': 'application/json' };
    const asking = request(`${address}/api/query`, { method: 'POST', agent, headers }, (response) => {
      let text = '';
      response.setEncoding('utf8').on('data', (piece) => (text += piece));
      response.on('end', () => resolve(JSON.parse(text)));
    });
    asking.on('error', reject).end(JSON.stringify(body));
  });

await alone({
  title: 'one document over HTTP',
  work: async (i) => {
    const { documents } = await ask({ pipeline: 'from rate\nwhere @.id == :id', parameters: { id: `s-${(i * 31) % count}` } });
    if (documents?.length !== 1) throw new Error('there is one such document');
  },
  goalMs: 5,
});
agent.destroy();
