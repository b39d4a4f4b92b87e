import { readFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import ts from 'typescript';

const core = join(__dirname, '../..');
const stageFile = join(core, 'src/language/stages/stage.ts');

/** The files that do not compile when one of them is another. */
function brokenBy(changed: string, text: string): string[] {
  const config = ts.getParsedCommandLineOfConfigFile(
    join(core, 'tsconfig.json'),
    { noEmit: true, composite: false, incremental: false },
    {
      ...ts.sys,
      onUnRecoverableConfigFileDiagnostic: ({ messageText }) => {
        throw new Error(ts.flattenDiagnosticMessageText(messageText, '\n'));
      },
    },
  );
  if (config === undefined) throw new Error('no configuration');
  const host = ts.createCompilerHost(config.options);
  const read = host.readFile.bind(host);
  host.readFile = (file) => (file === changed ? text : read(file));
  const getSourceFile = host.getSourceFile.bind(host);
  host.getSourceFile = (file, options, ...rest) =>
    file === changed ? ts.createSourceFile(file, text, options) : getSourceFile(file, options, ...rest);
  const program = ts.createProgram(config.fileNames, config.options, host);
  const files = ts.getPreEmitDiagnostics(program).map(({ file }) => (file === undefined ? '?' : relative(dirname(changed), file.fileName)));
  return [...new Set(files)].sort();
}

test('a new stage does not compile until each registry has its entry, and nothing else has to know of it', () => {
  const text = readFileSync(stageFile, 'utf8').replace(
    'export type PipelineStage =\n',
    "export interface ScratchStage {\n  readonly kind: 'scratch';\n}\nexport type PipelineStage =\n  | ScratchStage\n",
  );
  expect(text).toContain('| ScratchStage');
  expect(brokenBy(stageFile, text)).toEqual(['../../planner/layers/registry.ts', 'registry.ts']);
}, 60_000);
