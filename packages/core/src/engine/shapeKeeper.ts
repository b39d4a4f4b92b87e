import type { Gate } from '../execution/gate.ts';
import type { FlatField } from '../shape/fieldTree.ts';
import { Survey } from '../shape/survey.ts';
import type { ResidentStore } from '../storage/residentStore.ts';
import type { Pause } from './pause.ts';

/** Positions whose documents are surveyed together. */
const partSize = 4_096;
const documentsAtOnce = 1_000;

/**
 * Keeps the shape of a collection up to date: it is surveyed in parts by position, and after a change only the parts
 * that it touched are surveyed again.
 */
export class ShapeKeeper {
  private readonly parts: (Survey | undefined)[] = [];
  private version = -1;
  private known: Promise<FlatField[]> | undefined;
  private readonly store: ResidentStore;

  constructor(store: ResidentStore) {
    this.store = store;
  }

  /** The document at a position has changed. */
  touch(position: number): void {
    this.parts[Math.floor(position / partSize)] = undefined;
  }

  fields(pause: Pause, gate: Gate): Promise<FlatField[]> {
    if (this.known === undefined || this.version !== this.store.version) {
      this.version = this.store.version;
      this.known = gate.read(() => this.gather(pause));
    }
    return this.known;
  }

  private async gather(pause: Pause): Promise<FlatField[]> {
    const { documents } = this.store;
    const whole = new Survey();
    for (let part = 0; part * partSize < documents.length; part++) {
      const survey = this.parts[part] ?? (await this.survey(part, pause));
      this.parts[part] = survey;
      whole.join(survey);
    }
    return whole.fields();
  }

  private async survey(part: number, pause: Pause): Promise<Survey> {
    const survey = new Survey();
    const { documents } = this.store;
    const end = Math.min(documents.length, (part + 1) * partSize);
    for (let i = part * partSize; i < end; i++) {
      if (i % documentsAtOnce === 0) await pause();
      const document = documents[i];
      if (document !== undefined) survey.add(document);
    }
    return survey;
  }
}
