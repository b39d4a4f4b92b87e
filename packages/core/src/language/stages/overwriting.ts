import { descend } from '../../shape/fieldTree.ts';
import { findings } from '../diagnostics/findings.ts';
import { printGivenName } from '../grammar/names.ts';
import type { GivenName, StageScope } from './stage.ts';

/** A name that a stage gives and that rows have already. */
export function warnOfOverwriting(name: GivenName, { current, report, at }: StageScope): void {
  if (current !== undefined && !current.open && descend(current, name.names) !== undefined) {
    report(findings.overwritten(at(name), printGivenName(name.names)));
  }
}
