export * from './names.ts';
export * from './collections.ts';
export * from './queries.ts';
export * from './changes.ts';
export * from './history.ts';
export * from './runOrders.ts';
export * from './problems.ts';
export { routes, type Route } from './routes.ts';
export { openApiDocument } from './openapi.ts';
