import { EditorState, type TransactionSpec } from '@codemirror/state';
import { EditorView } from '@codemirror/view';
import { duplicateStage, format, moveStage, moveStageTo, toggleOff } from '../src/parts/editor/commands.ts';
import { dedent } from '../src/parts/editor/dedent.ts';

/** An editor without a page: a text in which `|` stands for the cursor. */
class Written {
  state: EditorState;
  constructor(text: string) {
    const at = text.indexOf('|');
    this.state = EditorState.create({ doc: text.replace('|', ''), selection: { anchor: Math.max(0, at) }, extensions: [dedent] });
  }
  get view(): EditorView {
    return this as unknown as EditorView;
  }
  dispatch(spec: TransactionSpec): void {
    this.state = this.state.update(spec).state;
  }
  /** As a browser does it: whoever handles input is asked first. */
  type(text: string): this {
    for (const letter of text) {
      const { head } = this.state.selection.main;
      const handled = this.state
        .facet(EditorView.inputHandler)
        .some((handle) => handle(this.view, head, head, letter, () => this.state.update({})));
      if (!handled) this.dispatch({ changes: { from: head, insert: letter }, selection: { anchor: head + letter.length } });
    }
    return this;
  }
  get text(): string {
    const doc = this.state.doc.toString();
    const { head } = this.state.selection.main;
    return `${doc.slice(0, head)}|${doc.slice(head)}`;
  }
}

const after = (text: string, work: (view: EditorView) => unknown): string => {
  const written = new Written(text);
  work(written.view);
  return written.text;
};

test.each<[string, string]>([
  ['from huts\nlimit 3|', 'from huts\noff limit 3|'],
  ['from huts\noff lim|it 3', 'from huts\nlim|it 3'],
  ['from huts\ngroup by @.a\n  measure n = count()|', 'from huts\noff group by @.a\n  measure n = count()|'],
  // The first line cannot be done without.
  ['from huts|\nlimit 3', 'from huts|\nlimit 3'],
])('a stage is switched off and on: %j', (before, expected) => expect(after(before, toggleOff)).toBe(expected));

test.each<[string, -1 | 1, string]>([
  ['from huts\nwhere @.a == 1\nlim|it 3', -1, 'from huts\nlim|it 3\nwhere @.a == 1'],
  ['from huts\nwhere @.|a == 1\nlimit 3', 1, 'from huts\nlimit 3\nwhere @.|a == 1'],
  // Continuation lines go with their stage; what stands between two stages stays between them.
  [
    'from huts\ngroup by @.a\n  measure n = |count()\n\n# few\nlimit 3',
    1,
    'from huts\nlimit 3\n\n# few\ngroup by @.a\n  measure n = |count()',
  ],
  ['from huts\nlimit 3|', 1, 'from huts\nlimit 3|'],
])('a stage is moved past its neighbour: %j by %d', (before, by, expected) => expect(after(before, moveStage(by))).toBe(expected));

test('a stage is put several places further, and the others close up', () => {
  expect(after('from huts\nlimit 1|\nlimit 2\nlimit 3', (view) => moveStageTo(view, 1, 3))).toBe('from huts\nlimit 2\nlimit 3\nlimit 1|');
  expect(after('from huts\nlimit 1\nlimit 2\nlimit 3|', (view) => moveStageTo(view, 3, 1))).toBe('from huts\nlimit 3|\nlimit 1\nlimit 2');
  expect(after('from huts\nlimit 1|', (view) => moveStageTo(view, 1, 7))).toBe('from huts\nlimit 1|');
});

test('a stage is written once more below itself', () => {
  expect(after('from huts\ngroup by @.a\n  measure| n = count()\nlimit 3', duplicateStage)).toBe(
    'from huts\ngroup by @.a\n  measure n = count()\ngroup by @.a\n  measure n = count()|\nlimit 3',
  );
  expect(after('from huts|', duplicateStage)).toBe('from huts|');
});

test('a text is put into its layout where it can be read, and left as it is where not', () => {
  expect(after('from   huts|\nwhere @.a==1', format)).toBe('from huts|\nwhere @.a == 1\n');
  expect(after('from   huts|\nwhere @.a=', format)).toBe('from   huts|\nwhere @.a=');
});

describe('a stage that is begun on an indented line', () => {
  const grouped = 'from huts\ngroup by @.a\n  measure n = count()\n  |';
  test.each<[string, string]>([
    ['order by @.n', 'from huts\ngroup by @.a\n  measure n = count()\norder by @.n|'],
    ['limit 3', 'from huts\ngroup by @.a\n  measure n = count()\nlimit 3|'],
    ['left join b as b on b.k == @.a', 'from huts\ngroup by @.a\n  measure n = count()\nleft join b as b on b.k == @.a|'],
    // What goes on with the stage above stays where it is.
    ['where @.b == 1', 'from huts\ngroup by @.a\n  measure n = count()\n  where @.b == 1|'],
    ['nonsense here', 'from huts\ngroup by @.a\n  measure n = count()\n  nonsense here|'],
  ])('comes to the start of its line: %s', (typed, expected) => expect(new Written(grouped).type(typed).text).toBe(expected));

  test('unless it goes on with the stage that it stands under', () => {
    const ranked = 'from huts\nrank as place\n  partition by @.region\n  |';
    expect(new Written(ranked).type('order by @.a').text).toBe('from huts\nrank as place\n  partition by @.region\n  order by @.a|');
    // In the middle of a line nothing is begun.
    expect(new Written('from huts\nwhere @.a == 1 |').type('limit 3').text).toBe('from huts\nwhere @.a == 1 limit 3|');
  });
});
