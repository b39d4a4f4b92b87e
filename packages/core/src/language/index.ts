export type { Span } from './span.ts';
export type { Diagnostic, Edit, Mend, Severity } from './diagnostics/diagnostic.ts';
export { lineAt } from './diagnostics/diagnostic.ts';
export { surfaceNamed, surfaces, usualSurface, type SurfaceName } from './surfaces/registry.ts';
export type { Surface } from './surfaces/surface.ts';
export type { Words } from './words.ts';
export { callersConditionProblem, mostTests } from './callersCondition.ts';
export { conditionParametersOf, sourceAskedBy } from './conditionParameters.ts';
export { checkPipeline, expressionsOf, parametersOf, type CheckedPipeline, type CheckedStage } from './checkPipeline.ts';
export type { Environment } from './environment.ts';
export { describeField } from './describeField.ts';
export { fieldAt } from './surfaces/notation/complete.ts';
export type { Completion, Completions } from './completions.ts';
export { collectionsRead, namedSources, viewsRead, withSource, type View, type Views } from './sources.ts';
export { groupedBeginning, type GroupedBeginning } from './groupedBeginning.ts';
export { fieldLife, type FieldLife, type LifeStep } from './fieldLife.ts';
export { withViewShapes } from './viewShape.ts';
export { isPlaced, type Pipeline, type PlacedStage } from './pipeline.ts';
export { topicOf, topics, type Topic } from './topic.ts';
export { definitionOf, kindsFor, stageKinds, stageRegistry, stageWords, type Purpose } from './stages/registry.ts';
export type * from './stages/stage.ts';
export type { StageDefinition, StageScope } from './stages/definition.ts';
export { isChangeStep, isJoin, isRank } from './stages/stage.ts';
export { functionSignatures, signatureOf, type FunctionName } from './functions/signatures.ts';
export { aggregateNames, aggregates, type Aggregate, type AggregateName } from './functions/aggregates.ts';
export { printMeasure } from './stages/group.ts';
export { signatureText, type FunctionSignature } from './functions/signature.ts';
export { pathText, printExpression, printLiteral } from './surfaces/notation/print.ts';
export { canonicalCondition, conditionForm, conditionText, type ConditionForm, type GroupMode } from './forms/conditionForm.ts';
export { fieldChanges, type FieldChanges } from './fieldChanges.ts';
export { readGroup, takenBy, writeGroup, type GroupForm, type GroupKeyRow, type MeasureRow } from './forms/groupForm.ts';
export { isPairCondition, leftOutOf, readJoin, withPartnerName, writeJoin, writeLeftOut, type JoinForm } from './forms/joinForm.ts';
export {
  ownName,
  readAssignments,
  readFields,
  writeAssignments,
  writeFields,
  writeRow,
  type AssignmentRow,
  type FieldsForm,
  type NamedRow,
} from './forms/namedRows.ts';
export { readOrderKeys, writeOrderKeys, type OrderRow } from './forms/orderForm.ts';
export { readBest, writeBest, type BestForm, type ScoreRow } from './forms/bestForm.ts';
export { readRank, writeRank, type RankForm } from './forms/rankForm.ts';
export { readUnnest, writeUnnest, type UnnestForm } from './forms/unnestForm.ts';
export { moveCondition, type FormPlace } from './forms/regroup.ts';
export { rowsAfter, type RowsAfter } from './forms/rowsAfter.ts';
export { conditionTests, splitPair, type ConditionTest, type ConditionTestName } from './forms/conditionTests.ts';
export { parseConditionText, parseValueText } from './surfaces/notation/texts.ts';
export { printOrderKey } from './stages/order.ts';
export { parseOrderKeyText } from './surfaces/notation/orderKeys.ts';
export { printGivenName } from './surfaces/notation/names.ts';
export { identityNames } from './identityNames.ts';
export { sqlName } from './surfaces/sql/words.ts';
export { fieldNames, isSingle, walk } from './tree.ts';
export { KeptTranslations } from './surfaces/sql/keptTranslations.ts';
export { translateSql, type ClauseLines, type SqlTranslation } from './surfaces/sql/translate.ts';
export { nearest as nearestName } from './diagnostics/nearest.ts';
export { outlineSql, withSqlSource, type SqlOutline } from './surfaces/sql/outline.ts';
export { printSql, type PrintedSql, type SqlDialect } from './surfaces/sql/print/printSql.ts';
export { completeSql, sqlFieldAt } from './surfaces/sql/complete.ts';
export { formatSql } from './surfaces/sql/format.ts';
export { tableScript, type ScriptDialect, type TableScript } from './surfaces/sql/print/tableScript.ts';
export type { Known } from './surfaces/sql/translate/work.ts';
export { tokenize, type Token } from './surfaces/notation/tokens.ts';
export type * from './tree.ts';
export {
  descend,
  fieldTree,
  emptyTree,
  mostPaths,
  type FieldInfo,
  type FieldStep,
  type FieldTree,
  type FlatField,
} from '../shape/fieldTree.ts';
export type { Kind } from '../values/kind.ts';
export type { Json, JsonObject } from '../values/json.ts';
export { surveyFields } from '../shape/survey.ts';
