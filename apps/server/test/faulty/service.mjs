import { readFileSync, rmSync } from 'node:fs';

/**
 * A service that goes wrong where a file says so: `{service, method, when: before | after, what: fail | stall | block | die}`,
 * or `sql` for a statement that begins so. Each is read once.
 */
function planted(service, place) {
  const file = process.env.FAULT_FILE;
  try {
    const fault = JSON.parse(readFileSync(file, 'utf8'));
    if (fault.service !== service || (fault.method ?? `sql ${fault.sql}`) !== place.name || fault.when !== place.when) return undefined;
    rmSync(file);
    return fault.what;
  } catch {
    return undefined;
  }
}

let underWay = 0;

/**
 * Ends the thread, as one that has run out of memory does, between two statements: amid one, SQLite's binding ends the
 * whole process with it, which is what the tests that kill it are about.
 */
async function die() {
  while (underWay > 0) await new Promise((resolve) => setTimeout(resolve, 1));
  process.exit(1);
}

async function suffer(service, place) {
  const what = planted(service, place);
  if (what === 'fail') throw new Error(`planted: ${service} ${place.name}`);
  if (what === 'stall') await new Promise(() => undefined);
  if (what === 'die') await die();
  if (what === 'block') for (;;);
}

function around(service, name, work) {
  return async function (...args) {
    await suffer(service, { name, when: 'before' });
    const done = await work.apply(this, args);
    await suffer(service, { name, when: 'after' });
    return done;
  };
}

export function faulty(name, service) {
  return new Proxy(service, {
    get: (target, method) => {
      const work = target[method];
      return typeof work === 'function' ? around(name, method, work.bind(target)) : work;
    },
  });
}

/** Statements of these beginnings can be made to fail. */
const statements = ['COMMIT', 'INSERT', 'UPDATE', 'DELETE'];

let writesDocuments = false;

export function faultyStatements(name, prototype) {
  for (const method of ['run', 'all', 'close']) {
    const work = prototype[method];
    prototype[method] = async function (sql, values) {
      const counted = async () => {
        underWay++;
        try {
          return await work.call(this, sql, values);
        } finally {
          underWay--;
        }
      };
      if (method === 'run' && sql.startsWith('BEGIN')) writesDocuments = false;
      if (/\b(?:INSERT|UPDATE|DELETE|REPLACE)\b.*\b(?:documents_\d|changedDocuments)/s.test(sql)) writesDocuments = true;
      const begins = statements.find((one) => method === 'run' && sql.startsWith(one));
      // What the server writes for itself, such as a run that it keeps, is not what a fault is planted for.
      return begins === undefined || !writesDocuments ? counted() : around(name, `sql ${begins}`, counted).call(this);
    };
  }
}
