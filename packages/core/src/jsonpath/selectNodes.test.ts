import { JsonPathError, selectNodes } from './selectNodes.ts';

const store = {
  shelf: [
    { title: 'Alder', price: 8, 'odd name': 1, tags: ['a', 'b'] },
    { title: 'Birch', price: 12.5, isbn: '0-1' },
    { title: 'Cedar', price: 9, isbn: '0-2', more: { price: 3 } },
  ],
  lamp: { price: 400 },
};
const values = (query: string, document: unknown = store) => selectNodes(query, document).map((node) => node.value);
const paths = (query: string, document: unknown = store) => selectNodes(query, document).map((node) => node.path);

describe('selectors and segments (RFC 9535, 2.3 and 2.5)', () => {
  test.each<[string, string[]]>([
    ['$', ['$']],
    ['$.lamp', ["$['lamp']"]],
    ["$['lamp']['price']", ["$['lamp']['price']"]],
    ['$.shelf[0]', ["$['shelf'][0]"]],
    ['$.shelf[-1]', ["$['shelf'][2]"]],
    ['$.shelf[3]', []],
    ['$.shelf[0,2]', ["$['shelf'][0]", "$['shelf'][2]"]],
    ['$.shelf[:2]', ["$['shelf'][0]", "$['shelf'][1]"]],
    ['$.shelf[::-1]', ["$['shelf'][2]", "$['shelf'][1]", "$['shelf'][0]"]],
    ['$.shelf[1:10:2]', ["$['shelf'][1]"]],
    ['$.shelf[::0]', []],
    ['$.shelf[*].isbn', ["$['shelf'][1]['isbn']", "$['shelf'][2]['isbn']"]],
    [
      '$..price',
      [
        "$['shelf'][0]['price']",
        "$['shelf'][1]['price']",
        "$['shelf'][2]['price']",
        "$['shelf'][2]['more']['price']",
        "$['lamp']['price']",
      ],
    ],
    ['$.shelf[?@.price < 10].title', ["$['shelf'][0]['title']", "$['shelf'][2]['title']"]],
    ['$.shelf[?@.isbn]', ["$['shelf'][1]", "$['shelf'][2]"]],
    ['$.shelf[?!@.isbn]', ["$['shelf'][0]"]],
    ['$.shelf[?@.isbn && @.price > 10 || @.tags]', ["$['shelf'][0]", "$['shelf'][1]"]],
    ["$.shelf[?@['odd name']==1]", ["$['shelf'][0]"]],
    ['$.shelf[?@.tags[?@=="b"]]', ["$['shelf'][0]"]],
    ['$.shelf[?@.price < $.lamp.price]', ["$['shelf'][0]", "$['shelf'][1]", "$['shelf'][2]"]],
    ['$[?@.price]', ["$['lamp']"]],
    ['$ .lamp [ "price" ]', ["$['lamp']['price']"]],
    ['$.shelf[?count(@.*) > 3].title', ["$['shelf'][0]['title']", "$['shelf'][2]['title']"]],
    ['$.shelf[?length(@.title) == 5 && match(@.title, "[A-B].*")].title', ["$['shelf'][0]['title']", "$['shelf'][1]['title']"]],
    ['$.shelf[?search(@.title, "ed")].title', ["$['shelf'][2]['title']"]],
    ['$.shelf[?value(@..price) == 8]', ["$['shelf'][0]"]],
  ])('%s', (query, expected) => expect(paths(query)).toEqual(expected));

  test('a comparison of nothing, null and other types', () => {
    const document = [{}, { a: null }, { a: 1 }, { a: '1' }, { a: [1] }, { a: { b: 1 } }, { a: true }];
    const kept = (query: string) => paths(query, document).map((path) => Number(/\d+/.exec(path)?.[0]));
    expect(kept('$[?@.a == @.b]')).toEqual([0]);
    expect(kept('$[?@.a == null]')).toEqual([1]);
    expect(kept('$[?@.a != 1]')).toEqual([0, 1, 3, 4, 5, 6]);
    expect(kept('$[?@.a <= 1]')).toEqual([2]);
    expect(kept('$[?@.a >= true]')).toEqual([6]);
    expect(kept('$[?@.a < true]')).toEqual([]);
    expect(kept('$[?@.a <= @.b]')).toEqual([0]);
    expect(kept('$[?@.a == $[5].a]')).toEqual([5]);
  });

  test('names that JavaScript objects inherit are plain data', () => {
    const document = JSON.parse('{"__proto__": {"x": 1}, "constructor": 2, "length": 3, "list": [1, 2], "": 4}');
    expect(values('$.__proto__.x', document)).toEqual([1]);
    expect(values('$.constructor', document)).toEqual([2]);
    expect(values('$.length', document)).toEqual([3]);
    expect(values("$['']", document)).toEqual([4]);
    expect(values('$.list.length', document)).toEqual([]);
    expect(values('$.toString', document)).toEqual([]);
    expect(values('$[?@.length]', document)).toEqual([]);
  });

  test('text is ordered by code point', () => {
    const document = ['\u{1f600}', '\uffee'];
    expect(values('$[?@ > "\uffee"]', document)).toEqual(['\u{1f600}']);
    expect(values('$[?$[1] < @]', document)).toEqual(['\u{1f600}']);
  });

  test('normalized paths escape names as the standard says', () => {
    expect(paths("$['a\\'b\\\\c\\u000b\\n']", { "a'b\\c\u000b\n": 1 })).toEqual(["$['a\\'b\\\\c\\u000b\\n']"]);
  });
});

describe('queries that are not well-formed or well-typed', () => {
  test.each([
    '',
    ' $',
    '$ ',
    '$.',
    '$..',
    '$.a.',
    '$. a',
    '$.. a',
    '$.1',
    '$[',
    '$[]',
    '$[01]',
    '$[-0]',
    '$[1.0]',
    '$[1e2]',
    '$[9007199254740992]',
    '$[ - 1]',
    "$['a]",
    '$["\\x"]',
    '$["\\uD800"]',
    '$["\\\'"]',
    "$['\\\"']",
    '$[a]',
    '@.a',
    'a',
    '$a',
    '$.a b',
    '$[1:2:3:4]',
    '$[?]',
    '$[?(@.a]',
    '$[?@.a = 1]',
    '$[?@.a == 1 == 2]',
    '$[?1]',
    '$[?"a"]',
    '$[?true]',
    '$[?@.a == (1)]',
    '$[?(@.a) == 1]',
    '$[?@.* == 1]',
    '$[?@..a == 1]',
    '$[?!@.a == 1]',
    '$[?!!@.a]',
    '$[?@.a + 1 == 2]',
    '$[?@.a in [1]]',
    '$[?@.a == [1]]',
    '$[?@.a == {}]',
    '$[?@.a == :p]',
    '$[?lower(@.a) == "a"]',
    '$[?count(1) == 1]',
    '$[?count(@.a, @.b) == 1]',
    '$[?length(@.*) == 1]',
    '$[?length(@.a)]',
    '$[?count(@.*)]',
    '$[?match(@.a, "b") == true]',
    '$[?match(@.a)]',
    '$[?value(1) == 1]',
    '$[?count (@.*) == 1]',
    '$[?@.a == 01]',
    '$[?@.a == 1.]',
    '$[?@.a == - 1]',
    '$[?@.a && ]',
    '$[?@.a and @.b]',
    '$[?@.a == True]',
    '$[?@.a == .1]',
    '$.&',
    '$["a\tb"]',
    '$.a # b',
    '$[?length(@.a) == ]',
    '$[,1]',
    '$[1,]',
    '$[?@.a,]',
    "$['a','b'",
    '$[?exists(@.a)]',
  ])('%j is refused with a position', (query) => {
    expect(() => selectNodes(query, {})).toThrow(JsonPathError);
    try {
      selectNodes(query, {});
    } catch (error) {
      expect((error as JsonPathError).position).toBeGreaterThanOrEqual(0);
    }
  });

  test.each([
    '$[?@.a==-0]',
    '$[?@.a==1E2]',
    '$[?@.a==-1.5e-3]',
    "$['\\uD83D\\uDE00']",
    '$[?(@.a)]',
    '$[?!(@.a)]',
    '$[?((@.a))&&@.b]',
    '$[\n?@.a\t]',
    '$[?match(@.a, @.b)]',
    '$[?length(value(@..a))==1]',
    '$.☺',
    '$[?@]',
    '$[?$]',
  ])('%j is accepted', (query) => expect(() => selectNodes(query, {})).not.toThrow());
});
