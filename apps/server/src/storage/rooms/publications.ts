import type { Publication } from '@zesty-sieve/contract';
import type { Reply } from '../../problem.ts';
import type { Connections } from '../connections.ts';
import type { Row } from '../database.ts';

/** A publication as it is kept. */
export type StoredPublication = Omit<Publication, 'totals' | 'figures' | 'problem'>;

/** A key: only what it is told apart by, and never what it says. */
export interface StoredKey {
  readonly id: string;
  readonly publication: string;
  readonly name: string;
  readonly salt: string;
  readonly hash: string;
  readonly createdAt: string;
  readonly lastUsedAt: string | null;
}

/** What was asked in one hour; `slow` counts calls by their time (`figures.ts`). */
export interface StoredFigures {
  readonly calls: number;
  readonly fromCache: number;
  readonly documentsRead: number;
  readonly documentsSaved: number;
  readonly failures: number;
  readonly slow: readonly number[];
}
export interface FiguresOfHour extends StoredFigures {
  readonly publication: string;
  readonly hour: string;
}
export interface LastFailure {
  readonly at: string;
  readonly message: string;
}

interface PublicationRow extends Row {
  body: string;
  lastFailure: string | null;
}

/** Publications, with their keys and figures. */
export class Publications {
  private readonly connections: Connections;

  constructor(connections: Connections) {
    this.connections = connections;
  }

  async publications(): Promise<(StoredPublication & { readonly lastFailure: LastFailure | null })[]> {
    const rows = await this.connections.reading.all<PublicationRow>('SELECT body, lastFailure FROM publications ORDER BY name');
    return rows.map(({ body, lastFailure }) => ({
      ...(JSON.parse(body) as StoredPublication),
      lastFailure: lastFailure === null ? null : (JSON.parse(lastFailure) as LastFailure),
    }));
  }

  savePublication(publication: StoredPublication): Promise<Reply<null>> {
    return this.connections.write(async () => {
      const { name, pipeline, updatedAt } = publication;
      await this.connections.writing.run(
        `INSERT INTO publications (name, pipeline, body, updatedAt) VALUES (?, ?, ?, ?)
         ON CONFLICT (name) DO UPDATE SET pipeline = excluded.pipeline, body = excluded.body, updatedAt = excluded.updatedAt`,
        [name, pipeline, JSON.stringify(publication), updatedAt],
      );
      return null;
    });
  }

  removePublication(name: string): Promise<Reply<boolean>> {
    return this.connections.write(async () => {
      const { writing } = this.connections;
      await writing.run('DELETE FROM publicationKeys WHERE publication = ?', [name]);
      await writing.run('DELETE FROM publicationFigures WHERE publication = ?', [name]);
      return (await writing.run('DELETE FROM publications WHERE name = ?', [name])) > 0;
    });
  }

  async publicationKeys(): Promise<StoredKey[]> {
    return this.connections.reading.all<StoredKey & Row>('SELECT * FROM publicationKeys ORDER BY createdAt, id');
  }

  addPublicationKey({ id, publication, name, salt, hash, createdAt }: StoredKey): Promise<Reply<null>> {
    return this.connections.write(async () => {
      await this.connections.writing.run(
        'INSERT INTO publicationKeys (id, publication, name, salt, hash, createdAt) VALUES (?, ?, ?, ?, ?, ?)',
        [id, publication, name, salt, hash, createdAt],
      );
      return null;
    });
  }

  removePublicationKey(publication: string, id: string): Promise<Reply<boolean>> {
    return this.connections.write(
      async () =>
        (await this.connections.writing.run('DELETE FROM publicationKeys WHERE publication = ? AND id = ?', [publication, id])) > 0,
    );
  }

  async publicationFigures(since: string): Promise<FiguresOfHour[]> {
    const rows = await this.connections.reading.all<{ publication: string; hour: string; figures: string }>(
      'SELECT * FROM publicationFigures WHERE hour >= ? ORDER BY hour',
      [since],
    );
    return rows.map(({ publication, hour, figures }) => ({ publication, hour, ...(JSON.parse(figures) as StoredFigures) }));
  }

  /** Writes what has been counted: the figures of hours as they are now, when keys were used, and what failed last. */
  keepFigures(
    hours: readonly FiguresOfHour[],
    used: readonly (readonly [id: string, at: string])[],
    failures: readonly (readonly [publication: string, failure: LastFailure])[],
    forgetBefore: string,
  ): Promise<Reply<null>> {
    return this.connections.write(async () => {
      const { writing } = this.connections;
      for (const { publication, hour, ...figures } of hours)
        await writing.run(
          `INSERT INTO publicationFigures (publication, hour, figures) SELECT ?1, ?2, ?3 WHERE EXISTS (SELECT 1 FROM publications WHERE name = ?1)
           ON CONFLICT (publication, hour) DO UPDATE SET figures = excluded.figures`,
          [publication, hour, JSON.stringify(figures)],
        );
      for (const [id, at] of used) await writing.run('UPDATE publicationKeys SET lastUsedAt = ? WHERE id = ?', [at, id]);
      for (const [name, failure] of failures)
        await writing.run('UPDATE publications SET lastFailure = ? WHERE name = ?', [JSON.stringify(failure), name]);
      await writing.run('DELETE FROM publicationFigures WHERE hour < ?', [forgetBefore]);
      return null;
    });
  }
}
