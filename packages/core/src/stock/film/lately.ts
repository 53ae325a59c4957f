/** What was worked out lately, by a text of all that it follows from; what was asked for longest ago goes. */
export function lately<T>(most: number): (key: string, make: () => T) => T {
  const known = new Map<string, T>();
  return (key, make) => {
    const value = known.has(key) ? known.get(key)! : make();
    known.delete(key);
    known.set(key, value);
    if (known.size > most) known.delete(known.keys().next().value!);
    return value;
  };
}
