import type { Route } from './route.ts';
import { routesOfAsking } from './routesOfAsking.ts';
import { routesOfData } from './routesOfData.ts';
import { routesOfDatabases } from './routesOfDatabases.ts';
import { routesOfPublishing } from './routesOfPublishing.ts';

/** Every call of the HTTP API: the OpenAPI document is made from this table. */
export const routes: readonly Route[] = [...routesOfData, ...routesOfAsking, ...routesOfPublishing, ...routesOfDatabases];
