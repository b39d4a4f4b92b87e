import type { RunList, Settings } from '@zesty-sieve/contract';
import { reply, ServerProblem, unwrap, type Reply } from '../../problem.ts';
import type { AskedBefore } from '../../told/askedBefore.ts';
import type { Connections } from '../connections.ts';
import { askedBefore, findRun, indexUse, keepRuns, listRuns, type RunToKeep } from '../runStore.ts';
import { readSettings, writeSettings, type SettingsChange } from '../settingsStore.ts';

/** Runs that are kept, and the settings that say how many. */
export class Runs {
  private readonly connections: Connections;

  constructor(connections: Connections) {
    this.connections = connections;
  }

  async keepRuns(runs: readonly RunToKeep[]): Promise<void> {
    const mostRuns = (await this.settings()).runsKept;
    unwrap(await this.connections.write(() => keepRuns(this.connections.writing, runs, mostRuns)));
  }

  runs(query: Parameters<typeof listRuns>[1]): Promise<RunList> {
    return listRuns(this.connections.reading, query);
  }

  /** A kept run with its plan: a `KeptRunDetail` as JSON text. */
  run(id: string): Promise<Reply<string>> {
    return reply(async () => {
      const found = await findRun(this.connections.reading, id);
      if (found === undefined) throw new ServerProblem('/gone', 'This run is not kept any more.');
      return found;
    });
  }

  /** The questions that kept runs asked, and those that are saved: each once, with how often it was run. */
  askedBefore(): Promise<AskedBefore[]> {
    return askedBefore(this.connections.reading);
  }

  indexUse(collectionId: number): ReturnType<typeof indexUse> {
    return indexUse(this.connections.reading, collectionId);
  }

  setBaseline(name: string, runId: string | null): Promise<Reply<null>> {
    return this.connections.write(async () => {
      if (runId !== null && (await findRun(this.connections.writing, runId)) === undefined)
        throw new ServerProblem('/gone', 'This run is not kept any more.');
      const changed = await this.connections.writing.run('UPDATE pipelines SET baseline = ? WHERE name = ?', [runId, name]);
      if (changed === 0) throw new ServerProblem('/not-found', `There is no saved pipeline ${name}.`);
      return null;
    });
  }

  settings(): Promise<Settings> {
    return readSettings(this.connections.reading);
  }

  setSettings(change: SettingsChange): Promise<Reply<Settings>> {
    return this.connections.write(() => writeSettings(this.connections.writing, change));
  }
}
