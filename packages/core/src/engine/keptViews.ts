import type { View } from '../language/sources.ts';
import type { PlannedStage } from '../planner/logical.ts';
import { goesByItself } from '../planner/views/answeredByView.ts';
import type { KeptView } from '../planner/views/keptView.ts';
import type { Collection } from './collection.ts';
import { expandedStages } from './ifKept.ts';
import type { Approximation, Note } from './requests.ts';

/** What was said of a view's lines when its rows were worked out: of values that could not be used, above all. */
export interface ViewNote {
  /** Of the view's own text. */
  readonly line: number;
  readonly message: string;
  readonly count: number;
  /** When the rows were worked out of which it was said. */
  readonly at?: string;
}

/** A saved pipeline whose rows are kept as a collection of its name. */
export interface MaterializedView {
  readonly name: string;
  readonly view: View;
  /** Whether its rows are those that its pipeline gives now. */
  readonly isFresh: boolean;
  /** Of the rows that are fresh: a collection in memory may have older ones. */
  readonly version: number;
  readonly refreshedAt: string | null;
  readonly notes: readonly ViewNote[];
  /** How far its rows can be relied on, where they may lack some that belong to them. */
  readonly approximate: Approximation | null;
}

/** Of a materialized view that was read for an answer, unasked or by its name. */
export interface ReadView {
  readonly view: string;
  readonly state: 'fresh' | 'stale';
  readonly refreshedAt: string | null;
}

/** The materialized views that there are, and what they answer. */
export class KeptViews {
  private readonly collections: ReadonlyMap<string, Collection>;
  private known: ReadonlyMap<string, MaterializedView> = new Map();
  private readonly read = new Map<string, { readonly text: string; readonly stages: readonly PlannedStage[] | undefined; readonly never: string | undefined }>(); // prettier-ignore

  constructor(collections: ReadonlyMap<string, Collection>) {
    this.collections = collections;
  }

  set(views: readonly MaterializedView[]): void {
    this.known = new Map(views.map((one) => [one.name, one]));
  }

  /** To be called when views that they may read have changed. */
  forget(): void {
    this.read.clear();
  }

  has(name: string): boolean {
    return this.known.has(name);
  }

  get names(): string[] {
    return [...this.known.keys()];
  }

  /** What each says. */
  get texts(): (readonly [string, View])[] {
    return [...this.known.values()].map(({ name, view }) => [name, view]);
  }

  /** Those whose rows are in memory and fresh. */
  get usable(): string[] {
    return [...this.known.keys()].filter((name) => this.unusable(name) === undefined);
  }

  /** Tells one state of them from another. */
  get state(): string {
    return [...this.known.values()].map(({ name, version }) => `${name} ${this.unusable(name) ?? version}`).join(' ');
  }

  private unusable(name: string): string | undefined {
    const view = this.known.get(name);
    if (view?.isFresh !== true) return 'it is not up to date';
    return this.collections.get(name)?.storedVersion === view.version ? undefined : 'its rows are not in memory';
  }

  /** As the planner weighs them. */
  list(views: ReadonlyMap<string, View>, ignored: readonly string[]): KeptView[] {
    return [...this.known.values()].map(({ name, view }) => {
      const { stages, never } = this.stagesOf(name, view, views);
      return {
        name,
        rows: this.collections.get(name)?.store.count ?? 0,
        stages,
        keepsSums: this.collections.get(name)?.keepsSums ?? false,
        unusable: ignored.includes(name) ? 'it was to be passed over' : (never ?? this.unusable(name)),
      };
    });
  }

  /** Of those that a question may begin with, the ones that are fresh: their rows have to be in memory to be read. */
  wantedFor(sources: readonly string[], views: ReadonlyMap<string, View>): string[] {
    return [...this.known.values()]
      .filter(({ name, view, isFresh }) => {
        const first = this.stagesOf(name, view, views).stages?.[0]?.stage;
        return isFresh && first?.kind === 'from' && sources.includes(first.source);
      })
      .map(({ name }) => name);
  }

  stagesOfKept(name: string, views: ReadonlyMap<string, View>): readonly PlannedStage[] | undefined {
    const known = this.known.get(name);
    return known && this.stagesOf(name, known.view, views).stages;
  }

  private stagesOf(name: string, view: View, views: ReadonlyMap<string, View>) {
    const text = `${view.surface ?? ''}\n${view.pipeline}\n${JSON.stringify(view.parameters ?? null)}`;
    let found = this.read.get(name);
    if (found?.text !== text) {
      const stages = expandedStages(name, view, views, [...this.collections.keys(), ...this.known.keys()]);
      found = { text, stages, never: stages && goesByItself(stages) };
      this.read.set(name, found);
    }
    return found;
  }

  /** What is to be said of views that were read, as if their lines had been worked out: told where the source is named. */
  notesOf(read: readonly ReadView[], placeOf: () => Pick<Note, 'line' | 'from' | 'to'>): Note[] {
    return read.flatMap(({ view }) => {
      const { notes = [], refreshedAt } = this.known.get(view) ?? {};
      const at = notes.length === 0 ? undefined : placeOf();
      return notes.map((note): Note => {
        // Rows that have followed changes since are not counted anew.
        const since = note.at === undefined || note.at === refreshedAt ? '' : ' (counted when its rows were last worked out as a whole)';
        const place = note.message.startsWith('In the view') ? '' : `In the view ${view}, line ${note.line}: `;
        return { code: 'unusable-values', ...at!, message: `${place}${note.message}${since}`, count: note.count };
      });
    });
  }

  /** Rows that are read of one that is not exact are not either. */
  approximationOf(read: readonly ReadView[]): Approximation | null {
    return read.reduce<Approximation | null>((found, { view }) => found ?? this.known.get(view)?.approximate ?? null, null);
  }

  /** Which of some collections are materialized views. */
  readBy(collections: Iterable<string>): ReadView[] {
    return [...new Set(collections)].flatMap((name) => {
      const view = this.known.get(name);
      return view === undefined ? [] : [{ view: name, state: view.isFresh ? ('fresh' as const) : ('stale' as const), refreshedAt: view.refreshedAt }]; // prettier-ignore
    });
  }
}
