import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { json, jsonParseLinter } from '@codemirror/lang-json';
import { bracketMatching, HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { linter } from '@codemirror/lint';
import { EditorState } from '@codemirror/state';
import { EditorView, keymap, lineNumbers } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import { useEffect, useRef } from 'react';
import { codeFont } from '../../../app/theme.ts';

/** An editor of JSON text, which marks what is no JSON where it stands. `made` grows when `text` is to replace what is there. */
export function JsonEditor({ text, made, onText, label }: { text: string; made: number; onText: (text: string) => void; label: string }) {
  const host = useRef<HTMLDivElement>(null);
  const latest = useRef({ text, onText });
  const { roles } = useTheme();
  useEffect(() => {
    latest.current = { text, onText };
  });
  useEffect(() => {
    if (host.current === null) return undefined;
    const colours = HighlightStyle.define([
      { tag: tags.propertyName, color: roles.path },
      { tag: tags.string, color: roles.text },
      { tag: [tags.number, tags.bool, tags.null], color: roles.number },
    ]);
    const view = new EditorView({
      parent: host.current,
      state: EditorState.create({
        doc: latest.current.text,
        extensions: [
          lineNumbers(),
          history(),
          json(),
          linter(jsonParseLinter()),
          bracketMatching(),
          syntaxHighlighting(colours),
          EditorView.lineWrapping,
          keymap.of([...defaultKeymap, ...historyKeymap]),
          EditorView.contentAttributes.of({ 'aria-label': label }),
          EditorView.theme({
            '&': { height: '100%', fontSize: '12.5px', backgroundColor: roles.surface },
            '.cm-content': { fontFamily: codeFont },
            '.cm-gutters': { backgroundColor: roles.surface, color: roles.softInk, border: 'none' },
            '&.cm-focused': { outline: 'none' },
          }),
          EditorView.updateListener.of((update) => update.docChanged && latest.current.onText(update.state.doc.toString())),
        ],
      }),
    });
    view.focus();
    return () => view.destroy();
  }, [roles, label, made]);
  return <Box ref={host} sx={{ flex: 1, minHeight: 0, overflow: 'hidden', border: 1, borderColor: 'divider', borderRadius: 1 }} />;
}
