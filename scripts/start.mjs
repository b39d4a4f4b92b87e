import { keepServer, say } from './steps.mjs';

say(`Zesty Sieve listens on ${await keepServer()}`);
