/* PostgreSQL in a process of its own: a script and questions come in as JSON, and each question's rows go out. */
import { PGlite } from '@electric-sql/pglite';
import { text } from 'node:stream/consumers';

const { script, questions } = JSON.parse(await text(process.stdin));
const database = new PGlite();
await database.exec(script);
const answers = [];
for (const question of questions) {
  try {
    answers.push({ rows: (await database.query(question)).rows });
  } catch (error) {
    answers.push({ error: error.message });
  }
}
process.stdout.write(JSON.stringify(answers));
await database.close();
