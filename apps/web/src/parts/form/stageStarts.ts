/** A stage to begin with: its word, and its text given a field that is there. */
export interface StageStart {
  readonly word: string;
  readonly text: (firstField: string) => string;
}

export const firstStart: StageStart = { word: 'from', text: () => 'from bookings' };

/** What may be added after the stage at the cursor. */
export const stageStarts: readonly StageStart[] = [
  { word: 'where', text: (field) => `where ${field}` },
  { word: 'select', text: (field) => `select ${field}` },
  { word: 'omit', text: (field) => `omit ${field}` },
  { word: 'compute', text: () => 'compute field = 1' },
  { word: 'unnest', text: () => 'unnest @.nights as night' },
  { word: 'join', text: () => 'left join huts as partner on partner.id == @.id' },
  { word: 'group by', text: (field) => `group by ${field}\n  measure rows = count()` },
  { word: 'rank', text: (field) => `rank as place order by ${field}` },
  { word: 'best', text: (field) => `best 10 by ${field} as score` },
  { word: 'order by', text: (field) => `order by ${field}` },
  { word: 'offset', text: () => 'offset 0' },
  { word: 'limit', text: () => 'limit 20' },
  { word: 'sample', text: () => 'sample 100 seed 1' },
];

/** What may be done with the documents that a change keeps. */
export const stepStarts: readonly StageStart[] = [
  { word: 'where', text: (field) => `where ${field}` },
  { word: 'set', text: () => 'set @.newField = 1' },
  { word: 'remove', text: () => 'remove @.newField' },
  { word: 'append', text: () => 'append "value" to @.newList' },
  { word: 'take', text: () => 'take "value" from @.newList' },
  { word: 'replace with', text: () => 'replace with {copy: @}' },
  { word: 'delete', text: () => 'delete' },
];
