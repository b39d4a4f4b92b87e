import fc from 'fast-check';
import { fieldTree, type FlatField } from '../../../shape/fieldTree.ts';
import { checkPipeline, fieldAt, functionSignatures, usualSurface, stageKinds, stageWords, type Environment } from '../../index.ts';

const field = (path: string, types: object, top: unknown[] = []): FlatField => ({
  steps: path.split('.').map((name) => (name === '*' ? { element: true } : { field: name })),
  info: { types, presence: 0.8, top: top.map((value) => ({ value: value as string, count: 3 })) },
});
const bookings = fieldTree([
  field('id', { text: 9 }),
  field('status', { text: 9 }, ['late', 'it’s "lost"']),
  field('size', { number: 9 }, [1, 2]),
  field('paid', { boolean: 9 }),
  field('odd name', { text: 9 }),
  field('party', { object: 9 }),
  field('party.lead', { text: 9 }),
  field('nights', { array: 9 }),
  field('nights.*', { object: 9 }),
  field('nights.*.fee', { number: 9 }),
]);
const huts = fieldTree([
  field('id', { text: 9 }),
  field('region', { text: 9 }, ['north']),
  field('fee', { object: 9 }),
  field('fee.night', { number: 9 }),
]);
const shapes = { bookings, huts };
const environment: Environment = {
  collections: ['bookings', 'huts'],
  shapeOf: (name) => (Object.hasOwn(shapes, name) ? shapes[name as keyof typeof shapes] : undefined),
};
const offered = (text: string, at = text.length) => usualSurface.complete(text, at, environment)?.options ?? [];
const labels = (text: string, at?: number) => offered(text, at).map(({ label }) => label);

test.each<[string, string[], string[]]>([
  // Stages, at the start of a line alone.
  ['from bookings\n', ['where', 'order by', 'left join', 'dense rank'], []],
  ['from bookings\nor', ['order by'], ['where']],
  ['from bookings\nwhere @.size > 1\n', ['limit'], []],
  // Collections after from and join.
  ['from bookings\njoin ', ['huts', 'bookings'], ['where']],
  ['from bookings\ngather join h', ['huts'], []],
  // Fields of the row as it is at that line.
  ['from bookings\ncompute total = @.size\nwhere @.', ['total', 'size'], []],
  ['from bookings\nselect @.id, @.party.lead as lead\norder by @.', ['id', 'lead'], ['status']],
  ['from bookings\nunnest @.nights as night\nwhere @.night.', ['fee'], ['status']],
  ['from bookings\ngroup by @.status as kind measure n = count()\norder by @.', ['kind', 'n'], ['status']],
  ['from bookings\nomit @.party\nwhere @.', ['status'], ['party.lead']],
  // Elements inside filters, the whole row by $.
  ['from bookings\nwhere @.nights[?@.', ['fee'], ['status']],
  ['from bookings\nwhere @.nights[?$.', ['status'], ['fee']],
  // The partner after its name, the row after @.
  ['from bookings\njoin huts as hut on hut.', ['id', 'region', 'fee.night'], ['status']],
  ['from bookings\njoin huts as hut on hut.id == @.', ['status'], ['region']],
  ['from bookings\njoin huts as hut on hut.id == @.id\nwhere @.hut.', ['region'], ['status']],
  // Values of the field that is compared.
  ['from bookings\nwhere @.status == ', ['"late"'], ['1']],
  ['from bookings\nwhere @.status in [', ['"late"'], []],
  ['from bookings\nwhere @.size > ', ['1', '2'], ['"late"']],
  ['from bookings\nwhere @.status in ["late", "l', ['"late"'], []],
  ['from bookings\nwhere @.nights[?@.fee > 4 && $.status == ', ['"late"'], ['1']],
  // Elements in calls over them, the row elsewhere in calls.
  ['from bookings\nwhere any(@.nights, @.', ['fee'], ['status']],
  ['from bookings\nwhere any(@.', ['nights', 'status'], ['fee']],
  ['from bookings\ncompute n = count(@.nights[?@.fee > $.', ['size'], ['fee']],
  // What cannot be read before the cursor is passed over.
  ['from bookings\nselect @.id wrong, @.', ['status'], []],
  ['from bookings\nwhere @.size == && @.nights[?@.', ['fee'], ['status']],
  ['from bookings\njoin huts as hut on hut.id = @.id && hut.', ['region'], ['status']],
  // A wildcard leads to the elements; what comes after a whole path is no field.
  ['from bookings\nwhere @.nights[*].', ['fee'], ['status']],
  ['from bookings\nwhere @.status ', [], ['status', '"late"']],
  // Functions; the editor narrows them by what is typed.
  ['from bookings\nwhere starts', ['starts_with'], ['status']],
  ['from bookings\ncompute x = date_', ['date_trunc', 'date_add', 'date_diff', 'date_part'], []],
  // Nothing in a comment or a text.
  ['from bookings\n# where @.', [], ['status']],
])('after %j are offered %j', (text, wanted, unwanted) => {
  const found = labels(text);
  for (const label of wanted) expect(found).toContain(label);
  for (const label of unwanted) expect(found).not.toContain(label);
});

test('a field is known by its name wherever it stands: in the row, in elements, in partners', () => {
  const text = 'from bookings\njoin huts as hut on hut.fee.night == @.size && any(@.nights, @.fee > 1) && @.nights[?@.fee == $.size]';
  const at = (written: string, name: string, nth = 0) => {
    let from = -1;
    for (let i = 0; i <= nth; i++) from = text.indexOf(written, from + 1);
    return fieldAt(text, from + written.lastIndexOf(name), environment);
  };
  expect(at('hut.fee', 'fee')?.fields.has('night')).toBe(true);
  expect(at('fee.night', 'night')?.info?.types).toEqual({ number: 9 });
  expect(at('@.size', 'size')?.info?.top).toHaveLength(2);
  expect(at('@.fee', 'fee')?.info?.types).toEqual({ number: 9 });
  expect(at('@.fee', 'fee', 1)?.info?.types).toEqual({ number: 9 });
  expect(at('$.size', 'size')?.info?.top).toHaveLength(2);
  expect(at('any(', 'any')).toBeUndefined();
});

test('what is offered is told: stages with an example, functions with their arguments, fields with types and presence', () => {
  for (const kind of stageKinds) {
    const option = offered('from bookings\n').find(({ label }) => label === stageWords(kind));
    if (option !== undefined)
      expect([option.kind, (option.info ?? '').length > 15, (option.detail ?? '').length > 3]).toEqual(['stage', true, true]);
  }
  for (const name of Object.keys(functionSignatures)) {
    const option = offered(`from bookings\ncompute x = ${name.slice(0, 3)}`).find(({ label }) => label === name);
    expect([name, option?.kind, option?.detail?.includes('(')]).toEqual([name, 'function', true]);
  }
  const status = offered('from bookings\nwhere @.').find(({ label }) => label === 'status');
  expect(status?.detail).toMatch(/text.*80/);
  // A name that is no plain one is put in as the standard has it.
  const odd = offered('from bookings\nwhere @.').find(({ label }) => label.includes('odd name'));
  expect(odd?.insert ?? odd?.label).toMatch(/\[(['"])odd name\1\]/);
});

const texts = [
  'from bookings\nwhere @.status == "late" && @.size >= 4\norder by @.party.lead desc nulls first\nlimit 15',
  'from bookings\nleft join huts as hut on hut.id == @.id && hut.region == "north"\nunnest @.nights as night with position as at\ncompute fee = @.night.fee * @.size',
  'from bookings\ngroup by @.status as kind\n  measure fees = sum(sum_of(@.nights[*].fee)), some = count() where @.paid == true\noff limit 3\nselect @.kind, @.fees',
  'from bookings\n# why\nwhere @.nights[?@.fee > 40 && $.size < 3] || any(@.nights, @.fee == 1)\nrank as place partition by @.status order by @.size',
];

test('wherever the cursor stands something sensible is offered or nothing, and what is taken can be read', () => {
  fc.assert(
    fc.property(fc.constantFrom(...texts), fc.nat(400), fc.boolean(), fc.nat(60), (text, place, isCut, choice) => {
      const at = Math.min(text.length, place);
      const written = isCut ? text.slice(0, at) : text;
      const found = usualSurface.complete(written, at, environment);
      if (found === undefined) return;
      expect(found.from).toBeGreaterThanOrEqual(0);
      expect(found.from).toBeLessThanOrEqual(at);
      expect(new Set(found.options.map(({ label, kind }) => `${kind} ${label}`)).size).toBe(found.options.length);
      if (found.options.length === 0) return;
      const { label, insert = label, kind } = found.options[choice % found.options.length];
      // What was begun and is now finished, with nothing after it.
      const taken = written.slice(0, found.from) + insert;
      const { diagnostics } = checkPipeline(usualSurface.parse(taken), environment);
      const inside = diagnostics.filter(({ from, to }) => from < taken.length && to > found.from);
      const codes = inside.map(({ code }) => code);
      if (kind === 'field') expect({ taken, codes }).not.toMatchObject({ codes: expect.arrayContaining(['unknown-field']) as unknown });
      if (kind === 'stage') expect({ taken, codes }).not.toMatchObject({ codes: expect.arrayContaining(['unknown-stage']) as unknown });
      if (kind === 'collection')
        expect({ taken, codes }).not.toMatchObject({ codes: expect.arrayContaining(['unknown-collection']) as unknown });
      if (kind === 'value') expect({ taken, codes }).not.toMatchObject({ codes: expect.arrayContaining(['open-string']) as unknown });
    }),
    { numRuns: 1_500 },
  );
});
