import type { Theme } from '@mui/material/styles';
import { EditorView } from '@codemirror/view';
import { codeFont, sansFont, veil, type Roles } from '../../app/theme.ts';

/** How the editor and its margin look, in the roles of the theme. */
export function appearance({ roles, palette }: Pick<Theme, 'roles' | 'palette'>) {
  return EditorView.theme(rules(roles), { dark: palette.mode === 'dark' });
}

// eslint-disable-next-line max-lines-per-function -- a list of styles
function rules(roles: Roles): Parameters<typeof EditorView.theme>[0] {
  return {
    '&': { height: '100%', fontSize: '13px', backgroundColor: roles.surface, color: roles.ink },
    '&.cm-focused': { outline: 'none' },
    '.cm-scroller': { fontFamily: codeFont, fontVariantLigatures: 'none', lineHeight: '34px', overflow: 'auto' },
    '.cm-content': { padding: '0 0 34px', caretColor: roles.ink },
    '.cm-line': { padding: '0 14px' },
    '.cm-gutters': { backgroundColor: roles.surface, border: 'none', borderRight: `1px dashed ${roles.line}`, color: roles.ink },
    '.cm-activeLine': { backgroundColor: veil(roles.flowSoft, 0.38) },
    '.cm-activeLineGutter': { backgroundColor: veil(roles.flowSoft, 0.38) },
    '&.zs-dragging, &.zs-dragging .cm-content': { cursor: 'grabbing' },
    '.zs-margin': { cursor: 'grab', width: '196px' },
    '.zs-margin .cm-gutterElement': { padding: '0' },
    '.zs-margin-row': {
      display: 'flex',
      alignItems: 'stretch',
      height: '100%',
      paddingLeft: '10px',
      fontFamily: sansFont,
      fontSize: '12px',
      fontVariantNumeric: 'tabular-nums',
    },
    '.zs-margin-row svg': { width: '68px', height: '100%', flex: 'none', display: 'block' },
    '.zs-margin-row path': { fill: veil(roles.flow, 0.78) },
    '.zs-margin-row.is-here path': { fill: roles.flowStrong },
    '.zs-margin-row b': { flex: '1', textAlign: 'right', fontWeight: '650' },
    '.zs-margin-row span': { width: '52px', textAlign: 'right', paddingRight: '8px', color: roles.softInk, fontSize: '11px' },
    '.zs-margin-row.is-bounded b': { fontWeight: '450', fontStyle: 'italic', color: roles.softInk },
    '.zs-margin-row.is-bounded path': { fill: roles.flowSoft },
    '.zs-margin-row.is-stale path': { opacity: '0.45' },
    '.zs-margin-row.is-stale b': { color: roles.softInk, fontWeight: '450' },
    '.zs-stage': { color: roles.zest, fontWeight: '700' },
    '.zs-word': { color: roles.zest, fontWeight: '600' },
    '.zs-path': { color: roles.path },
    '.zs-string': { color: roles.text },
    '.zs-number': { color: roles.number },
    '.zs-parameter': { color: roles.index, fontWeight: '600' },
    '.zs-call': { color: roles.call, fontWeight: '600' },
    '.zs-comment': { color: roles.softInk, fontStyle: 'italic' },
    '.zs-off': { color: roles.softInk, textDecoration: 'line-through', textDecorationColor: roles.quiet },
    '.zs-wrong': { textDecoration: 'underline wavy 1px', textUnderlineOffset: '4px' },
    '.zs-wrong.is-error': { textDecorationColor: roles.scan },
    '.zs-wrong.is-warning': { textDecorationColor: roles.flowStrong },
    '.zs-finding': {
      display: 'flex',
      alignItems: 'center',
      flexWrap: 'wrap',
      gap: '4px 10px',
      padding: '4px 14px',
      margin: '0',
      fontFamily: sansFont,
      fontSize: '12px',
      lineHeight: '18px',
      whiteSpace: 'normal',
    },
    '.zs-finding.is-error': { color: roles.scan, backgroundColor: veil(roles.scan, 0.06) },
    '.zs-finding.is-warning': { color: roles.softInk, backgroundColor: veil(roles.flowSoft, 0.3) },
    '.zs-finding button': {
      font: 'inherit',
      fontWeight: '600',
      color: roles.index,
      background: roles.surface,
      border: `1px solid ${veil(roles.index, 0.5)}`,
      borderRadius: '999px',
      padding: '1px 10px',
      cursor: 'pointer',
    },
    '.cm-tooltip': {
      border: `1px solid ${roles.line}`,
      borderRadius: '8px',
      backgroundColor: roles.surface,
      boxShadow: '0 6px 24px rgb(35 38 46 / 0.14)',
      overflow: 'hidden',
    },
    '.cm-tooltip.cm-tooltip-autocomplete > ul': { fontFamily: codeFont, fontSize: '12.5px', maxHeight: '260px', minWidth: '340px' },
    '.cm-tooltip.cm-tooltip-autocomplete > ul > li': { display: 'flex', gap: '16px', padding: '3px 10px', lineHeight: '20px' },
    '.cm-tooltip-autocomplete ul li[aria-selected]': { backgroundColor: roles.flowSoft, color: roles.ink },
    '.cm-completionLabel': { flex: '1' },
    '.cm-completionMatchedText': { textDecoration: 'none', fontWeight: '700', color: roles.zest },
    '.cm-completionDetail': { fontFamily: sansFont, fontStyle: 'normal', fontSize: '11.5px', color: roles.softInk, marginLeft: 'auto' },
    '.cm-tooltip.cm-completionInfo': { padding: '8px 12px', maxWidth: '300px', fontFamily: sansFont, fontSize: '12px', lineHeight: '17px' },
    '.cm-selectionBackground, &.cm-focused > .cm-scroller > .cm-selectionLayer .cm-selectionBackground': {
      backgroundColor: veil(roles.index, 0.16),
    },
    '.zs-hover': { padding: '8px 12px', maxWidth: '340px', fontFamily: sansFont, fontSize: '12px', lineHeight: '18px' },
    '.zs-hover b': { fontFamily: codeFont },
    '.cm-placeholder': { color: roles.softInk },
  };
}
