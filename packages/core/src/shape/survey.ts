import { isObject, type Json, type JsonObject } from '../values/json.ts';
import { FieldSurvey } from './fieldSurvey.ts';
import { mostPaths, type FieldStep, type FlatField } from './fieldTree.ts';

/** Gathers the shape of a collection, one document after another; parts of a collection are joined. */
export class Survey {
  private readonly root = new FieldSurvey();
  private documents = 0;
  private paths = 0;

  add(document: JsonObject): void {
    this.documents++;
    this.fieldsOf(this.root, document);
  }

  join(other: Survey): void {
    this.documents += other.documents;
    this.root.join(other.root);
  }

  private fieldsOf(survey: FieldSurvey, object: JsonObject): void {
    for (const name of Object.keys(object)) {
      let field = survey.fields.get(name);
      if (field === undefined) {
        if (this.paths >= mostPaths) continue;
        this.paths++;
        field = new FieldSurvey();
        survey.fields.set(name, field);
      }
      this.value(field, object[name]!);
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
      if (flat.length >= mostPaths) return;
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
