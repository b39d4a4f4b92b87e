import type { PlanStep, QueryAnswer } from '@zesty-sieve/contract';
import { usualSurface, type Stage } from '@zesty-sieve/core/language';
import type { View } from '../../../state/bench/benchState.ts';

/** What stands on the Bench: a step is done when this is so, in whatever way one came to it. */
export interface Seen {
  readonly text: string;
  /** Of this text; null while there is none. */
  readonly result: QueryAnswer | null;
  readonly view: View;
  /** Where it is written in SQL; the text is what that became. */
  readonly sql: string | null;
}

export interface Step {
  /** What to do, and what for. */
  readonly say: string;
  readonly isDone: (seen: Seen) => boolean;
  /** The text that does it, for whoever wants to be shown. */
  readonly shows?: string;
  /** The same in SQL, where the step is about that. */
  readonly showsSql?: string;
}

export interface Lesson {
  readonly id: string;
  readonly title: string;
  /** What it is about, in a few words. */
  readonly about: string;
  /** The collection that it reads. */
  readonly needs: string;
  readonly begins: string;
  readonly steps: readonly Step[];
}

function stagesOf({ text }: Seen): Stage[] {
  return usualSurface.parse(text).stages.flatMap(({ stage, off }) => (stage === undefined || off ? [] : [stage]));
}
const has = (seen: Seen, kind: Stage['kind'], of = ''): boolean =>
  stagesOf(seen).some((stage) => stage.kind === kind) && seen.text.includes(of);
const rows = ({ result }: Seen): number => result?.rowsReturned ?? -1;
const every = ({ result }: Seen, test: (row: Record<string, unknown>) => boolean): boolean =>
  result !== null && result.documents.length > 0 && result.documents.every((row) => test(row as Record<string, unknown>));
const usesIndex = (step: PlanStep): boolean => step.index !== undefined || step.inputs.some(usesIndex);
const sizeOf = ({ party }: Record<string, unknown>): number => (party as { size?: number } | undefined)?.size ?? 0;

/** The job, in the order in which it is learnt, on the demo's data. */
export const lessons: readonly Lesson[] = [
  {
    id: 'look',
    title: 'Look at documents',
    about: 'lines, rows, and what each line lets through',
    needs: 'huts',
    begins: 'from huts\n',
    steps: [
      {
        say: 'from huts reads all 120 huts. Below it, write order by @.altitudeM desc: the highest hut comes first.',
        isDone: (seen) => has(seen, 'order', 'altitudeM') && rows(seen) === 120,
        shows: 'from huts\norder by @.altitudeM desc\n',
      },
      {
        say: 'Keep the first five with a line more: limit 5. Left of each line stands how many rows come out of it.',
        isDone: (seen) => has(seen, 'limit') && rows(seen) === 5,
        shows: 'from huts\norder by @.altitudeM desc\nlimit 5\n',
      },
      { say: 'Press Shape above the rows: which fields there are, of what types, in how many of the rows.', isDone: ({ view }) => view === 'shape' },
    ],
  },
  {
    id: 'ask',
    title: 'Ask with conditions',
    about: 'where, and what a question reads',
    needs: 'bookings',
    begins: 'from bookings\n',
    steps: [
      {
        say: 'Which bookings came late? Write where @.status == "late". A field is written @. and its name; the form below writes it too.',
        isDone: (seen) => has(seen, 'where') && every(seen, ({ status }) => status === 'late'),
        shows: 'from bookings\nwhere @.status == "late"\n',
      },
      {
        say: 'Of those, parties of four and more: go on in the same line with && @.party.size >= 4.',
        isDone: (seen) => every(seen, (row) => row['status'] === 'late' && sizeOf(row) >= 4),
        shows: 'from bookings\nwhere @.status == "late" && @.party.size >= 4\n',
      },
      { say: 'At the foot stands what it cost: all 50,000 bookings were read for it. Press Plan to see how the work went.', isDone: ({ view }) => view === 'plan' },
    ],
  },
  {
    id: 'arrays',
    title: 'Look into arrays',
    about: 'one of them, all of them, and the same element',
    needs: 'huts',
    begins: 'from huts\nselect @.name, @.fittings\n',
    steps: [
      {
        say: 'Which huts have a stove? Put where includes(@.fittings, "stove") before the select.',
        isDone: (seen) => has(seen, 'where') && every(seen, ({ fittings }) => Array.isArray(fittings) && fittings.includes('stove')),
        shows: 'from huts\nwhere includes(@.fittings, "stove")\nselect @.name, @.fittings\n',
      },
      {
        say: 'And a drying room beside it: includes_all(@.fittings, ["stove", "drying room"]).',
        isDone: (seen) => every(seen, ({ fittings }) => Array.isArray(fittings) && ['stove', 'drying room'].every((one) => fittings.includes(one))),
        shows: 'from huts\nwhere includes_all(@.fittings, ["stove", "drying room"])\nselect @.name, @.fittings\n',
      },
    ],
  },
  {
    id: 'join',
    title: 'Join another collection',
    about: 'what a booking’s hut says',
    needs: 'bookings',
    begins: 'from bookings\nwhere @.status == "late"\n',
    steps: [
      {
        say: 'A booking has the number of its hut alone. Bring the hut: join huts as hut on hut.id == @.hutId.',
        isDone: (seen) => has(seen, 'join') && every(seen, ({ hut }) => typeof hut === 'object' && hut !== null),
        shows: 'from bookings\nwhere @.status == "late"\njoin huts as hut on hut.id == @.hutId\n',
      },
      {
        say: 'Now it can be asked for as if it were a part of the booking: where @.hut.region == "Low Tarn".',
        isDone: (seen) => every(seen, ({ hut }) => (hut as { region?: string } | undefined)?.region === 'Low Tarn'),
        shows: 'from bookings\nwhere @.status == "late"\njoin huts as hut on hut.id == @.hutId\nwhere @.hut.region == "Low Tarn"\n',
      },
    ],
  },
  {
    id: 'group',
    title: 'Group and measure',
    about: 'a row for each hut, and a chart',
    needs: 'bookings',
    begins: 'from bookings\n',
    steps: [
      {
        say: 'How many bookings has each hut? group by @.hutId measure bookings = count().',
        isDone: (seen) => has(seen, 'group') && every(seen, ({ hutId, bookings }) => hutId !== undefined && typeof bookings === 'number'),
        shows: 'from bookings\ngroup by @.hutId measure bookings = count()\n',
      },
      {
        say: 'The busiest first, ten of them: order by @.bookings desc, and below it limit 10.',
        isDone: (seen) => has(seen, 'group') && has(seen, 'order', 'desc') && rows(seen) === 10,
        shows: 'from bookings\ngroup by @.hutId measure bookings = count()\norder by @.bookings desc\nlimit 10\n',
      },
      { say: 'Press Chart above the rows.', isDone: ({ view }) => view === 'chart' },
    ],
  },
  {
    id: 'faster',
    title: 'Make it fast',
    about: 'an index, and how the plan changes',
    needs: 'bookings',
    begins: 'from bookings\nwhere @.hutId == "h-022" && @.party.size > 6\n',
    steps: [
      { say: 'A few rows, and 50,000 documents read for them: at the foot stands which index would help. Press Plan to see it told in full.', isDone: ({ view }) => view === 'plan' },
      {
        say: 'Press Build and run again, below the steps: the same question goes by the index then, with a few documents read; both runs stand side by side.',
        isDone: ({ result }) => result !== null && usesIndex(result.plan),
      },
    ],
  },
  {
    id: 'words',
    title: 'Search in texts',
    about: 'reports that speak of something, the best first, and why',
    needs: 'reports',
    begins: 'from reports\n',
    steps: [
      {
        say: 'Which reports speak of a lynx? Write where mentions_any(@.text, "lynx", "english"): a word is found in whatever form it stands.',
        isDone: (seen) => has(seen, 'where', 'mentions_any') && every(seen, ({ text }) => /lynx/i.test(String(text))),
        shows: 'from reports\nwhere mentions_any(@.text, "lynx", "english")\n',
      },
      {
        say: 'The five that say most of it, instead: best 5 by relevance(@.text, "lynx tracks", "english").',
        isDone: (seen) => has(seen, 'best', 'relevance') && rows(seen) === 5,
        shows: 'from reports\nbest 5 by relevance(@.text, "lynx tracks", "english")\n',
      },
      {
        say: 'And where they say it: below that, select @.headline, excerpt(@.text, "lynx tracks", "english") as passage. The Search screen asks like this.',
        isDone: (seen) => has(seen, 'best') && every(seen, ({ passage }) => typeof passage === 'string'),
        shows: 'from reports\nbest 5 by relevance(@.text, "lynx tracks", "english")\nselect @.headline, excerpt(@.text, "lynx tracks", "english") as passage\n',
      },
    ],
  },
  {
    id: 'sql',
    title: 'Say it in SQL',
    about: 'the same question in the other face',
    needs: 'huts',
    begins: 'from huts\nwhere @.bunks > 40\n',
    steps: [
      {
        say: 'Press SQL above the editor: the same question stands there, as SQL says it.',
        isDone: ({ sql }) => sql !== null,
        shows: 'from huts\nwhere @.bunks > 40\n',
        showsSql: 'SELECT *\nFROM huts AS h\nWHERE h.bunks > 40',
      },
      {
        say: 'Go on in it: a line more, ORDER BY altitudeM DESC. Beside each clause stands how many rows it lets through.',
        isDone: (seen) => seen.sql !== null && has(seen, 'order', 'altitudeM'),
        shows: 'from huts\nwhere @.bunks > 40\norder by @.altitudeM desc\n',
        showsSql: 'SELECT *\nFROM huts AS h\nWHERE h.bunks > 40\nORDER BY h.altitudeM DESC',
      },
      {
        say: 'Press Notation: nothing is lost on the way back. Either can be saved, planned and published.',
        isDone: (seen) => seen.sql === null && has(seen, 'order', 'altitudeM'),
        shows: 'from huts\nwhere @.bunks > 40\norder by @.altitudeM desc\n',
      },
    ],
  },
]; // prettier-ignore
