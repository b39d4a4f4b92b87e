import type { Extension } from '@codemirror/state';
import { hoverTooltip, type Tooltip } from '@codemirror/view';
import {
  describeField,
  fieldAt,
  functionSignatures,
  signatureText,
  tokenize,
  type Environment,
  type FunctionName,
} from '@zesty-sieve/core/language';

/** Explains the function or the field under the pointer. */
export function hovers(environment: () => Environment): Extension {
  return hoverTooltip((view, at) => {
    const text = view.state.doc.toString();
    const token = tokenize(text, 0, text.length).find(({ from, to, kind }) => kind === 'name' && from <= at && at < to);
    if (token === undefined) return null;
    const lines = explain(text, token.text, token.from, token.to, environment());
    if (lines === undefined) return null;
    return explained(token.from, token.to, lines);
  });
}

/** What is told of a stretch of the text, its name first. */
export function explained(pos: number, end: number, lines: readonly string[]): Tooltip {
  return {
    pos,
    end,
    create: () => {
      const dom = document.createElement('div');
      dom.className = 'zs-hover';
      lines.forEach((line, i) => {
        const row = document.createElement(i === 0 ? 'b' : 'div');
        row.textContent = line;
        dom.append(row);
      });
      return { dom };
    },
  };
}

function explain(text: string, name: string, from: number, to: number, environment: Environment): string[] | undefined {
  if (text[to] === '(' && Object.hasOwn(functionSignatures, name)) {
    const signature = functionSignatures[name as FunctionName];
    return [signatureText(name, signature), signature.doc, `For example ${signature.example}`];
  }
  const field = fieldAt(text, from, environment);
  if (field === undefined) return undefined;
  const { detail = '', info = '' } = describeField(field.info);
  const top = (field.info?.top ?? []).slice(0, 5).map(({ value, count }) => `${JSON.stringify(value)} ${count.toLocaleString('en')} times`);
  return [name, detail, info, ...(top.length > 0 ? [top.join(', ')] : [])];
}
