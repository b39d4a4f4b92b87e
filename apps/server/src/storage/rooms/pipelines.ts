import { ServerProblem, type Reply } from '../../problem.ts';
import type { Connections } from '../connections.ts';
import { savedOf, type PipelineColumns, type StoredPipeline } from '../savedPipeline.ts';

/** Saved pipelines. */
export class Pipelines {
  private readonly connections: Connections;

  constructor(connections: Connections) {
    this.connections = connections;
  }

  async pipelines(): Promise<StoredPipeline[]> {
    return (await this.connections.reading.all<PipelineColumns>('SELECT * FROM pipelines ORDER BY name')).map(savedOf);
  }

  savePipeline(name: string, body: Omit<StoredPipeline, 'name' | 'updatedAt'>): Promise<Reply<StoredPipeline>> {
    return this.connections.write(async () => {
      const updatedAt = new Date().toISOString();
      await this.connections.models.pipelines.upsert({
        name,
        pipeline: body.pipeline,
        sql: body.sql,
        view: body.view,
        parameters: body.parameters === null ? null : JSON.stringify(body.parameters),
        guards: body.guards === null ? null : JSON.stringify(body.guards),
        note: body.note,
        chart: body.chart === null ? null : JSON.stringify(body.chart),
        updatedAt,
      });
      return { name, ...body, updatedAt };
    });
  }

  /** Gives a saved pipeline another name, and writes those anew that read it. */
  renamePipeline(
    name: string,
    next: string,
    rewritten: readonly { readonly name: string; readonly pipeline: string; readonly sql: string | null }[],
  ): Promise<Reply<null>> {
    return this.connections.write(async () => {
      if (await this.connections.models.pipelines.findByPk(next))
        throw new ServerProblem('/exists', `There is a saved pipeline ${next} already.`);
      await this.connections.writing.run('UPDATE pipelines SET name = ? WHERE name = ?', [next, name]);
      // A view whose rows are kept has them under its own name.
      await this.connections.writing.run(
        'UPDATE collections SET name = ? WHERE id = (SELECT collectionId FROM materializedViews WHERE name = ?)',
        [next, name],
      );
      await this.connections.writing.run('UPDATE materializedViews SET name = ? WHERE name = ?', [next, name]);
      await this.connections.writing.run(
        `UPDATE publications SET pipeline = ?1, body = json_set(body, '$.pipeline', ?1) WHERE pipeline = ?2`,
        [next, name],
      );
      for (const one of rewritten)
        await this.connections.models.pipelines.update({ pipeline: one.pipeline, sql: one.sql }, { where: { name: one.name } });
      return null;
    });
  }

  removePipeline(name: string): Promise<Reply<boolean>> {
    // Bound, and not written into the statement: a name may hold any character.
    return this.connections.write(async () => (await this.connections.writing.run('DELETE FROM pipelines WHERE name = ?', [name])) > 0);
  }
}
