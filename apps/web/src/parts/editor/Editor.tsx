import { closeBrackets, closeBracketsKeymap, completionKeymap } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { bracketMatching } from '@codemirror/language';
import { highlightSelectionMatches, search, searchKeymap } from '@codemirror/search';
import { Compartment, EditorState, Prec } from '@codemirror/state';
import {
  drawSelection,
  EditorView,
  highlightActiveLine,
  highlightActiveLineGutter,
  keymap,
  placeholder,
  rectangularSelection,
} from '@codemirror/view';
import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import type { Diagnostic, Environment } from '@zesty-sieve/core/language';
import { useEffect, useRef } from 'react';
import { appearance } from './appearance.ts';
import { offerMissed } from './completion.ts';
import { findingsDisplay, setFindings } from './findings.ts';
import type { EditorLanguage } from './languages.ts';
import { margin, setMargin, type MarginData } from './margin.ts';
import { changeTextSize, useTextSize } from './textSize.ts';

const textSizeKeys = ([['Alt-=', 1], ['Alt-+', 1], ['Alt--', -1], ['Alt-0', 0]] as const).map(([key, by]) => ({ key, run: () => (changeTextSize(by), true) })); // prettier-ignore

export interface EditorProps {
  /** What is written in it; it does not change while the editor stands. */
  readonly language: EditorLanguage;
  readonly text: string;
  /** Which of the open pipelines this is: each has its own undo. */
  readonly tab: string;
  /** Grows when `text` is to replace what stands in the editor. */
  readonly loaded: number;
  readonly cursorLine: number;
  readonly environment: Environment;
  readonly margin: MarginData;
  readonly diagnostics: readonly Diagnostic[];
  readonly onText: (text: string) => void;
  /** Told where the cursor is: its line, and its offset. */
  readonly onLine: (line: number, offset: number) => void;
  readonly onRun: () => void;
  /** Told of what is pasted; true where it has been dealt with. */
  readonly onPaste?: (text: string) => boolean;
  /** Given the editor itself, for changes that come from beside it. */
  readonly onReady: (view: EditorView) => void;
}

/** The editor, in either face, with the margin beside its lines. */
export function Editor(props: EditorProps) {
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(null);
  const latest = useRef(props);
  const states = useRef(new Map<string, EditorState>());
  const shown = useRef(props.tab);
  const fresh = useRef<(text: string) => EditorState>(undefined);
  const theme = useTheme();
  const looks = useRef(new Compartment());
  const size = useTextSize();
  const latestLooks = useRef({ theme, size });

  useEffect(() => {
    latest.current = props;
    latestLooks.current = { theme, size };
  });

  useEffect(() => {
    if (host.current === null) return undefined;
    const { text, cursorLine, language } = latest.current;
    fresh.current = (doc) =>
      EditorState.create({
        doc,
        extensions: [
          Prec.highest(keymap.of([{ key: 'Mod-Enter', run: () => (latest.current.onRun(), true) }, ...textSizeKeys, ...language.keys])),
          history(),
          drawSelection(),
          bracketMatching(),
          EditorView.lineWrapping,
          closeBrackets(),
          margin(language.onDrag),
          highlightActiveLine(),
          highlightActiveLineGutter(),
          findingsDisplay,
          language.extensions(() => latest.current.environment),
          // Find and replace, and several cursors: Ctrl D takes the next of the same, Alt and the mouse a column.
          search({ top: true }),
          highlightSelectionMatches(),
          EditorState.allowMultipleSelections.of(true),
          rectangularSelection(),
          keymap.of([...closeBracketsKeymap, ...completionKeymap, ...historyKeymap, ...searchKeymap, ...defaultKeymap]),
          EditorView.contentAttributes.of({ 'aria-label': language.label, spellcheck: 'false' }),
          placeholder(language.placeholder),
          looks.current.of(appearance(latestLooks.current.theme, latestLooks.current.size)),
          EditorView.domEventHandlers({
            paste: (event) =>
              latest.current.onPaste?.(event.clipboardData?.getData('text/plain') ?? '') === true && (event.preventDefault(), true),
          }),
          EditorView.updateListener.of((update) => {
            if (update.docChanged) latest.current.onText(update.state.doc.toString());
            if (update.docChanged || update.selectionSet) {
              const { head } = update.state.selection.main;
              latest.current.onLine(update.state.doc.lineAt(head).number, head);
            }
          }),
        ],
      });
    const made = new EditorView({ state: fresh.current(text), parent: host.current });
    view.current = made;
    latest.current.onReady(made);
    moveTo(made, cursorLine);
    made.focus();
    return () => made.destroy();
  }, []);

  const { loaded } = props;

  useEffect(() => {
    const { text, cursorLine, tab } = latest.current;
    const editor = view.current;
    if (editor === null) return;
    if (shown.current !== tab) {
      states.current.set(shown.current, editor.state);
      shown.current = tab;
      const left = states.current.get(tab);
      editor.setState(left?.doc.toString() === text ? left : (fresh.current?.(text) ?? editor.state));
    } else if (editor.state.doc.toString() !== text) {
      editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: text } });
    }
    moveTo(editor, cursorLine);
  }, [loaded]);

  // The text, its undo and where one stands in it stay as they are.
  useEffect(() => {
    view.current?.dispatch({ effects: looks.current.reconfigure(appearance(theme, size)) });
  }, [theme, size, loaded]);

  const { margin: data, diagnostics, environment } = props;
  useEffect(() => {
    if (view.current !== null) offerMissed(view.current);
  }, [environment]);
  useEffect(() => {
    view.current?.dispatch({ effects: setMargin.of(data) });
  }, [data, loaded]);
  useEffect(() => {
    view.current?.dispatch({ effects: setFindings.of(diagnostics) });
  }, [diagnostics, loaded]);

  return <Box ref={host} sx={{ flex: 1, minHeight: 0, overflow: 'hidden' }} />;
}

function moveTo(view: EditorView, line: number): void {
  const at = view.state.doc.line(Math.max(1, Math.min(line, view.state.doc.lines)));
  view.dispatch({ selection: { anchor: at.to }, scrollIntoView: true });
}
