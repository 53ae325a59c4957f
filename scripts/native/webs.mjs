// Locals told apart by what is written in them: a place that is used again for something else becomes a variable of its own.

/** The instructions of a body and of all blocks in it. */
export function* allOf(body) {
  for (const i of body) {
    yield i;
    if (i.body) yield* allOf(i.body);
    if (i.other) yield* allOf(i.other);
  }
}

const both = (a, b) => (!a ? b : !b ? a : a.map((set, i) => (set === b[i] ? set : new Set([...set, ...b[i]]))));
const same = (a, b) => a.every((set, i) => set === b[i] || (set.size === b[i].size && [...set].every((v) => b[i].has(v))));

/**
 * Renames the locals of a function, as `readText` gives it, so that each reads what the same writings have left (the webs of
 * definitions and uses: Muchnick 1997, 16.3.3). Adds `variables`: for each its type and the parameter it begins as, or null.
 */
export function nameWebs(f) {
  const group = new Map(),
    rootOf = (key) => {
      let k = key;
      while (group.get(k) !== k) k = group.get(k);
      return k;
    },
    join = (a, b) => group.set(rootOf(a), rootOf(b)),
    key = (local, by) => `${local}:${by}`;
  let written = 0;
  for (const i of allOf(f.body)) if (i.kind === 'set') i.by = written++;
  f.locals.forEach((_, local) => group.set(key(local, 'first'), key(local, 'first')));
  for (const i of allOf(f.body)) if (i.kind === 'set') group.set(key(i.local, i.by), key(i.local, i.by));
  /** What may have been written in each local after some instructions; null where their end is not reached. */
  function after(body, before) {
    let state = before;
    for (const i of body) {
      if (i.kind === 'get') {
        const [first, ...others] = [...state[i.local]];
        i.web = key(i.local, first);
        for (const by of others) join(key(i.local, by), i.web);
      } else if (i.kind === 'set') {
        state = state.with(i.local, new Set([i.by]));
        i.web = key(i.local, i.by);
      } else if (i.kind === 'br' || i.kind === 'br_table' || i.kind === 'br_if') {
        for (const to of i.to) to.arriving = both(to.arriving, state);
        if (i.kind !== 'br_if') return null;
      } else if (i.kind === 'return') return null;
      else if (i.kind === 'block' || i.kind === 'if') {
        i.arriving = null;
        const through = after(i.body, state),
          beside = i.kind === 'if' ? (i.other ? after(i.other, state) : state) : null;
        state = both(both(through, beside), i.arriving);
        if (!state) return null;
      } else if (i.kind === 'loop') {
        let head = state,
          through;
        for (;;) {
          i.arriving = null;
          through = after(i.body, head);
          const again = both(head, i.arriving);
          if (same(again, head)) break;
          head = again;
        }
        state = through;
        if (!state) return null;
      }
    }
    return state;
  }
  after(
    f.body,
    f.locals.map(() => new Set(['first'])),
  );
  const names = new Map();
  f.variables = [];
  const nameOf = (k, type) => {
    const r = rootOf(k);
    if (!names.has(r)) {
      names.set(r, f.variables.length);
      f.variables.push({ type, begins: null });
    }
    return names.get(r);
  };
  f.params.forEach((type, local) => (f.variables[nameOf(key(local, 'first'), type)].begins = local));
  for (const i of allOf(f.body)) if (i.kind === 'get' || i.kind === 'set') i.variable = nameOf(i.web, f.locals[i.local]);
}
