import type { QueryInterface } from 'sequelize';

export interface Migration {
  readonly name: string;
  readonly up: (parameters: { context: QueryInterface }) => Promise<void>;
}
