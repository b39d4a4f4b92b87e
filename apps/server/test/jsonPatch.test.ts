import { jsonPatched, PatchProblem } from '../src/storage/jsonPatch.ts';
import type { Json } from '@zesty-sieve/core';

/* The examples of RFC 6902, appendix A, and what stands at the edges of documents. */
test.each<[string, Json, unknown[], Json]>([
  ['A.1 adding a member', { foo: 'bar' }, [{ op: 'add', path: '/baz', value: 'qux' }], { foo: 'bar', baz: 'qux' }],
  ['A.2 adding an element', { foo: ['bar', 'baz'] }, [{ op: 'add', path: '/foo/1', value: 'qux' }], { foo: ['bar', 'qux', 'baz'] }],
  ['A.3 removing a member', { baz: 'qux', foo: 'bar' }, [{ op: 'remove', path: '/baz' }], { foo: 'bar' }],
  ['A.4 removing an element', { foo: ['bar', 'qux', 'baz'] }, [{ op: 'remove', path: '/foo/1' }], { foo: ['bar', 'baz'] }],
  ['A.5 replacing a value', { baz: 'qux', foo: 'bar' }, [{ op: 'replace', path: '/baz', value: 'boo' }], { baz: 'boo', foo: 'bar' }],
  ['A.6 moving a value', { foo: { bar: 1, waldo: 'fred' }, qux: {} }, [{ op: 'move', from: '/foo/waldo', path: '/qux/thud' }], { foo: { bar: 1 }, qux: { thud: 'fred' } }], // prettier-ignore
  ['A.7 moving an element', { foo: ['all', 'grass', 'cows', 'eat'] }, [{ op: 'move', from: '/foo/1', path: '/foo/3' }], { foo: ['all', 'cows', 'eat', 'grass'] }], // prettier-ignore
  ['A.8 testing a value', { baz: 'qux', foo: ['a', 2] }, [{ op: 'test', path: '/foo/1', value: 2 }], { baz: 'qux', foo: ['a', 2] }],
  [
    'A.10 adding an object',
    { foo: 'bar' },
    [{ op: 'add', path: '/child', value: { grandchild: {} } }],
    { foo: 'bar', child: { grandchild: {} } },
  ],
  ['A.11 members that are not known', { foo: 'bar' }, [{ op: 'add', path: '/baz', value: 'qux', xyz: 123 }], { foo: 'bar', baz: 'qux' }],
  ['A.14 escapes', { '/': 9, '~1': 10 }, [{ op: 'test', path: '/~01', value: 10 }], { '/': 9, '~1': 10 }],
  ['A.16 adding an array', { foo: ['bar'] }, [{ op: 'add', path: '/foo/-', value: ['abc'] }], { foo: ['bar', ['abc']] }],
  ['the whole document', { foo: 1 }, [{ op: 'replace', path: '', value: { id: 2 } }], { id: 2 }],
  ['copying', { a: { b: 1 } }, [{ op: 'copy', from: '/a', path: '/c' }, { op: 'replace', path: '/c/b', value: 2 }], { a: { b: 1 }, c: { b: 2 } }], // prettier-ignore
])('%s', (_, document, patch, expected) => {
  const before = JSON.stringify(document);
  expect(jsonPatched(document, patch)).toEqual(expected);
  expect(JSON.stringify(document)).toBe(before);
});

test.each<[string, Json, unknown[], string]>([
  ['A.9 a test that fails', { baz: 'qux' }, [{ op: 'test', path: '/baz', value: 'bar' }], 'operation 1'],
  ['A.12 a target whose parent is not there', { foo: 'bar' }, [{ op: 'add', path: '/baz/bat', value: 'qux' }], '/baz/bat'],
  ['A.15 a number is no text', { '~1': 10 }, [{ op: 'test', path: '/~01', value: '10' }], 'operation 1'],
  ['the second of two', { a: 1 }, [{ op: 'remove', path: '/a' }, { op: 'remove', path: '/a' }], 'operation 2'], // prettier-ignore
  ['beyond the end', { a: [1] }, [{ op: 'add', path: '/a/3', value: 1 }], '/a/3'],
  ['no operation', { a: 1 }, ['remove'], 'an operation is an object'],
  ['an operation that there is not', { a: 1 }, [{ op: 'raise', path: '/a' }], 'operation 1'],
  ['a pointer that is none', { a: 1 }, [{ op: 'remove', path: 'a' }], 'operation 1'],
  ['everything', { a: 1 }, [{ op: 'remove', path: '' }], 'the whole document'],
])('%s is refused', (_, document, patch, message) => {
  expect(() => jsonPatched(document, patch)).toThrow(PatchProblem);
  expect(() => jsonPatched(document, patch)).toThrow(message);
});
