import type { z } from 'zod';

/** One call of the API: what it takes and gives, which the server checks and the OpenAPI document tells. */
export interface Route {
  readonly method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  /** With `:name` for parameters, below `/api`. */
  readonly path: string;
  readonly summary: string;
  readonly body?: z.ZodType;
  /** Content types of a body that is no JSON of a schema. */
  readonly takes?: readonly string[];
  readonly query?: z.ZodType;
  readonly status: number;
  readonly answer?: z.ZodType;
  readonly gives?: readonly string[];
}
