import type { z } from 'zod';

export * from './names.ts';
export * from './collections.ts';
export * from './indexes.ts';
export * from './queries.ts';
export * from './plans.ts';
export * from './sql.ts';
export * from './words.ts';
export * from './work.ts';
export * from './pipelines.ts';
export * from './publications.ts';
export * from './databases.ts';
export * from './changes.ts';
export * from './history.ts';
export * from './runOrders.ts';
export * from './problems.ts';
export { routes } from './routes.ts';
export type { Route } from './route.ts';
export { openApiDocument } from './openapi.ts';

/** What a schema gives once it is read, and what may be sent to it. */
export type Answer<S extends z.ZodType> = z.output<S>;
export type Body<S extends z.ZodType> = z.input<S>;
