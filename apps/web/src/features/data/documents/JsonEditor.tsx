import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { json, jsonParseLinter } from '@codemirror/lang-json';
import { bracketMatching, HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { linter } from '@codemirror/lint';
import { Compartment, EditorState, type Extension } from '@codemirror/state';
import { EditorView, keymap, lineNumbers } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import Box from '@mui/material/Box';
import { useTheme, type Theme } from '@mui/material/styles';
import { useEffect, useRef } from 'react';
import { codeFont } from '../../../app/theme.ts';

/** An editor of JSON text, which marks what is no JSON where it stands. `made` grows when `text` is to replace what is there. */
export function JsonEditor({ text, made, onText, label }: { text: string; made: number; onText: (text: string) => void; label: string }) {
  const host = useRef<HTMLDivElement>(null);
  const latest = useRef({ text, onText });
  const theme = useTheme();
  const looks = useRef(new Compartment());
  const view = useRef<EditorView>(null);
  const latestTheme = useRef(theme);
  useEffect(() => {
    latest.current = { text, onText };
    latestTheme.current = theme;
  });
  useEffect(() => {
    if (host.current === null) return undefined;
    const opened = new EditorView({
      parent: host.current,
      state: EditorState.create({
        doc: latest.current.text,
        extensions: [
          lineNumbers(),
          history(),
          json(),
          linter(jsonParseLinter()),
          bracketMatching(),
          EditorView.lineWrapping,
          keymap.of([...defaultKeymap, ...historyKeymap]),
          EditorView.contentAttributes.of({ 'aria-label': label }),
          looks.current.of(appearance(latestTheme.current)),
          EditorView.updateListener.of((update) => update.docChanged && latest.current.onText(update.state.doc.toString())),
        ],
      }),
    });
    view.current = opened;
    opened.focus();
    return () => opened.destroy();
  }, [label, made]);
  useEffect(() => {
    view.current?.dispatch({ effects: looks.current.reconfigure(appearance(theme)) });
  }, [theme]);
  return <Box ref={host} sx={{ flex: 1, minHeight: 0, overflow: 'hidden', border: 1, borderColor: 'divider', borderRadius: 1 }} />;
}

function appearance({ roles, palette }: Theme): Extension {
  const colours = HighlightStyle.define([
    { tag: tags.propertyName, color: roles.path },
    { tag: tags.string, color: roles.text },
    { tag: [tags.number, tags.bool, tags.null], color: roles.number },
  ]);
  const rules = {
    '&': { height: '100%', fontSize: '12.5px', backgroundColor: roles.surface },
    '.cm-content': { fontFamily: codeFont, caretColor: roles.ink },
    '.cm-gutters': { backgroundColor: roles.surface, color: roles.softInk, border: 'none' },
    '&.cm-focused': { outline: 'none' },
  };
  return [syntaxHighlighting(colours), EditorView.theme(rules, { dark: palette.mode === 'dark' })];
}
