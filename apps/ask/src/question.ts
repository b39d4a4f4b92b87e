/** What a line at the prompt asks for. */
export type Statement =
  | { readonly kind: 'question'; readonly question: { readonly sql: string } | { readonly pipeline: string } }
  | { readonly kind: 'format'; readonly format: string }
  | { readonly kind: 'plan' | 'quit' | 'help' | 'nothing' };

/** Whether what is written so far is one statement and no more is awaited: it ends with a semicolon. */
export function isComplete(text: string): boolean {
  return /;\s*$/.test(text) || /^\s*(?:quit|exit|help)\s*$/i.test(text);
}

/** The statements of a text, one after another: each ends with a semicolon at the end of a line. */
export function statementsIn(text: string): string[] {
  const found: string[] = [];
  let written = '';
  for (const line of text.split('\n')) {
    written += `${line}\n`;
    if (!/;\s*$/.test(line)) continue;
    found.push(written);
    written = '';
  }
  return [...found, written].filter((one) => one.trim() !== '');
}

/** A text as a statement: SQL, the notation, or a word to the prompt itself, whichever its first word is. */
export function readStatement(text: string): Statement {
  const written = text
    .trim()
    .replace(/;+\s*$/, '')
    .trim();
  const [word = '', ...rest] = written.split(/\s+/);
  switch (word.toLowerCase()) {
    case '':
      return { kind: 'nothing' };
    case 'quit':
    case 'exit':
      return { kind: 'quit' };
    case 'help':
      return { kind: 'help' };
    case 'plan':
      return { kind: 'plan' };
    case 'format':
      return { kind: 'format', format: rest.join(' ').toLowerCase() };
    case 'from':
    case '#':
      return { kind: 'question', question: { pipeline: written } };
    default:
      // A comment, or a source of its own, may stand before the first stage.
      return { kind: 'question', question: isNotation(written) ? { pipeline: written } : { sql: written } };
  }
}

function isNotation(text: string): boolean {
  const first = text.split('\n').find((line) => line.trim() !== '' && !line.trim().startsWith('#') && !line.trim().startsWith('--')) ?? '';
  return /^from\b/.test(first) || /^with\s+[\w-]+\s*$/.test(first);
}
