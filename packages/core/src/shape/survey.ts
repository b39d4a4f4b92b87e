import type { Json, JsonObject } from '../values/json.ts';
import { kindOf, type Kind } from '../values/kind.ts';
import { compareText } from '../values/order.ts';
import { isObject } from '../values/json.ts';
import type { FieldInfo, FieldStep, FlatField } from './fieldTree.ts';

/** Different values counted per field before it is taken to have many. */
const distinctLimit = 64;
const topLimit = 12;
/** Paths kept per collection: documents whose field names are data would otherwise fill the memory. */
const pathLimit = 2_000;
const exampleLength = 120;

class FieldSurvey {
  readonly types: Partial<Record<Kind, number>> = {};
  readonly fields = new Map<string, FieldSurvey>();
  element: FieldSurvey | undefined;
  documents = 0;
  least: number | string | undefined;
  greatest: number | string | undefined;
  values: Map<string | number | boolean, number> | undefined = new Map();
  example: Json | undefined;
  lastDocument = -1;

  meet(value: Json, document: number): void {
    if (this.lastDocument !== document) {
      this.lastDocument = document;
      this.documents++;
    }
    const kind = kindOf(value);
    this.types[kind] = (this.types[kind] ?? 0) + 1;
    if (value !== null && this.example === undefined) this.example = shortened(value);
    if (typeof value === 'number') this.range(value, value < Number(this.least), value > Number(this.greatest));
    if (typeof value === 'string') {
      this.range(value, compareText(value, String(this.least)) < 0, compareText(value, String(this.greatest)) > 0);
    }
    if (typeof value !== 'object') this.count(value);
  }

  /** A range is kept of the type that came first; the types say where others are mixed in. */
  private range(value: number | string, below: boolean, above: boolean): void {
    if (this.least === undefined) {
      this.least = this.greatest = value;
    } else if (typeof this.least === typeof value) {
      if (below) this.least = value;
      if (above) this.greatest = value;
    }
  }

  private count(value: string | number | boolean): void {
    if (this.values === undefined) return;
    this.values.set(value, (this.values.get(value) ?? 0) + 1);
    if (this.values.size > distinctLimit) this.values = undefined;
  }

  info(documents: number): FieldInfo {
    const top = [...(this.values ?? [])]
      .sort((a, b) => b[1] - a[1])
      .slice(0, topLimit)
      .map(([value, count]) => ({ value: typeof value === 'string' ? value.slice(0, exampleLength) : value, count }));
    return {
      types: this.types,
      presence: documents === 0 ? 0 : this.documents / documents,
      ...(this.least !== undefined && { least: this.least, greatest: this.greatest }),
      top,
      ...(this.example !== undefined && { example: this.example }),
    };
  }
}

function shortened(value: Json): Json {
  if (typeof value === 'string') return value.slice(0, exampleLength);
  return typeof value === 'object' && JSON.stringify(value).length > exampleLength ? (Array.isArray(value) ? [] : {}) : value;
}

/** Gathers the shape of a collection, one document after another; a whole collection in slices. */
export class Survey {
  private readonly root = new FieldSurvey();
  private documents = 0;
  private paths = 0;

  add(document: JsonObject): void {
    this.documents++;
    this.fieldsOf(this.root, document);
  }

  private fieldsOf(survey: FieldSurvey, object: JsonObject): void {
    for (const name of Object.keys(object)) {
      let field = survey.fields.get(name);
      if (field === undefined) {
        if (this.paths >= pathLimit) continue;
        this.paths++;
        field = new FieldSurvey();
        survey.fields.set(name, field);
      }
      this.value(field, object[name]);
    }
  }

  private value(survey: FieldSurvey, value: Json): void {
    survey.meet(value, this.documents);
    if (Array.isArray(value)) {
      for (const item of value) this.value((survey.element ??= new FieldSurvey()), item);
    } else if (isObject(value)) {
      this.fieldsOf(survey, value);
    }
  }

  /** The paths in order of first appearance, parents before their fields. */
  fields(): FlatField[] {
    const flat: FlatField[] = [];
    const visit = (survey: FieldSurvey, steps: readonly FieldStep[]): void => {
      if (steps.length > 0) flat.push({ steps, info: survey.info(this.documents) });
      for (const [name, field] of survey.fields) visit(field, [...steps, { field: name }]);
      if (survey.element) visit(survey.element, [...steps, { element: true }]);
    };
    visit(this.root, []);
    return flat;
  }
}

/** The shape of some documents at once. */
export function surveyFields(documents: readonly JsonObject[]): FlatField[] {
  const survey = new Survey();
  for (const document of documents) survey.add(document);
  return survey.fields();
}
