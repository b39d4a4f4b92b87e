/** Makes what belongs to an object once, however often it is asked for. */
export function once<K extends object, T>(make: (key: K) => T): (key: K) => T {
  const made = new WeakMap<K, { readonly value: T }>();
  return (key) => {
    let found = made.get(key);
    if (found === undefined) made.set(key, (found = { value: make(key) }));
    return found.value;
  };
}
