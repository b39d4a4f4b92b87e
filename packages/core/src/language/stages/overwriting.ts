import { descend } from '../../shape/fieldTree.ts';
import { findings } from '../diagnostics/findings.ts';
import type { GivenName } from './stage.ts';
import type { StageScope } from './definition.ts';

/** A name that a stage gives and that rows have already. */
export function warnOfOverwriting(name: GivenName, { current, report, at, words }: StageScope): void {
  if (current !== undefined && !current.open && descend(current, name.names) !== undefined) {
    report(findings.overwritten(at(name), words.name(name.names)));
  }
}
