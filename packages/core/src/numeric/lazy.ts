/** A value that is worked out when it is first asked for, and once. */
export function lazy<T>(make: () => T): () => T {
  let known: { readonly value: T } | null = null;
  return () => {
    known ??= { value: make() };
    return known.value;
  };
}
