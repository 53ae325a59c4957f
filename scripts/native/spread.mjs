// Which loops over pixels may take two steps at a time, and what is then two values instead of one.
import { allOf } from './webs.mjs';

/** How far an address moves from one step to the next: bytes; `far` where what it read decides, `stride` by what is only known when it runs. */
const worst = (...moves) => (moves.includes('stride') ? 'stride' : moves.includes('far') ? 'far' : null);
const meet = (a, b) => (a === b || b === undefined ? a : a === undefined ? b : (worst(a, b) ?? 'far'));
/** Operations that say one thing of all lanes. */
const ofAll = new Set(['v128.any_true', 'i32x4.all_true']);
const isRead = (name) => /\.load/.test(name);
const isWrite = (name) => /\.store/.test(name);

class Refused extends Error {}
const refuse = (why) => {
  throw new Refused(why);
};

/**
 * Finds out what differs between two steps of a loop taken at once.
 * @param module as `readText` gives it, its functions' webs named
 * @param wideGlobals names of globals that hold what differs; more are added
 */
export function spreader(module, wideGlobals) {
  const called = new Map();
  /** A function called with arguments of which some differ; what differs in it. */
  function calledWith(name, differs) {
    const id = `${name} ${differs.map(Number).join('')}`;
    if (!called.has(id)) {
      const f = module.functions[name],
        variables = new Map(f.variables.flatMap(({ begins }, v) => (begins !== null && differs[begins] ? [[v, 'far']] : [])));
      called.set(id, { f, differs, id: [...called].length, found: { values: new Set(), variables, moves: new Map(), returns: false } });
      const entry = called.get(id);
      settle(f.body, entry.found, null);
      if (entry.found.returns && f.result !== 'v128') refuse(`${name} gives two numbers`);
    }
    return called.get(id);
  }
  /** Follows what differs through some instructions until nothing new is found. `main`: the question whether the loop goes on, which may differ. */
  function settle(body, found, main) {
    const { values, variables, moves } = found;
    for (let size = -1; size !== values.size + variables.size + wideGlobals.size + moves.size;) {
      size = values.size + variables.size + wideGlobals.size + moves.size;
      for (const i of allOf(body)) follow(i, found, main);
    }
    for (const i of allOf(body)) {
      const [address] = i.args ?? [];
      if (i.kind !== 'op' || !address) continue;
      if (!values.has(address)) {
        if (isWrite(i.name) && values.has(i.args[1])) refuse('two are written to one place');
        continue;
      }
      const move = moves.get(address);
      if ((isRead(i.name) || isWrite(i.name)) && /^v128\.(load|store|load16x4_u)$/.test(i.name) && move === 'stride')
        refuse('what is read or written does not lie side by side');
      if (isWrite(i.name) && move === 'far') refuse('where it is written depends on what was read');
    }
  }
  function follow(i, found, main) {
    const { values, variables, moves } = found,
      differs = (v) => values.has(v),
      any = (i.args ?? []).some(differs);
    if (i.kind === 'get') {
      if (variables.has(i.variable)) {
        values.add(i.out);
        moves.set(i.out, variables.get(i.variable));
      }
    } else if (i.kind === 'set') {
      if (any && !(found.steps?.has(i.variable) ?? false))
        variables.set(i.variable, meet(variables.get(i.variable), moves.get(i.args[0]) ?? 'far'));
    } else if (i.kind === 'recall') {
      if (wideGlobals.has(i.global)) values.add(i.out);
    } else if (i.kind === 'keep') {
      if (any) wideGlobals.add(i.global);
    } else if (i.kind === 'give') {
      if (any) values.add(i.to.result);
    } else if (/^br/.test(i.kind)) {
      if (i.given && differs(i.given)) for (const to of i.to) values.add(to.result);
      if (any) refuse('the way it goes differs');
    } else if (i.kind === 'return') {
      if (any) found.returns = true;
    } else if (i.kind === 'if') {
      if (any && i !== main) refuse('the way it goes differs');
    } else if (i.kind === 'select') {
      if (any) {
        values.add(i.out);
        moves.set(i.out, differs(i.args[2]) ? 'far' : meet(moveOf(i.args[0], found), moveOf(i.args[1], found)));
      }
    } else if (i.kind === 'call') {
      const { found: inside } = calledWith(i.of, i.args.map(differs));
      if (i.out && inside.returns) values.add(i.out);
    } else if (i.kind === 'op' && any && i.out && !ofAll.has(i.name)) {
      if (/\.sh[lr]/.test(i.name) && i.out.type === 'v128' && differs(i.args[1])) refuse('how far is shifted differs');
      values.add(i.out);
      if (i.out.type === 'i32') moves.set(i.out, moveAfter(i, found));
    } else if (i.kind === 'op' && any && i.name === 'memory.fill') refuse('what is cleared differs');
  }
  const moveOf = (v, { values, moves }) => (values.has(v) ? (moves.get(v) ?? 'far') : 0);
  function moveAfter({ name, args }, found) {
    const [a, b] = args.map((v) => moveOf(v, found)),
      constant = (v) => /^\(u32\)(-?\d+)$/.exec(v.says ?? '')?.[1];
    if (name === 'i32.add') return worst(a, b) ?? a + b;
    if (name === 'i32.sub') return worst(a, b) ?? a - b;
    if (name === 'i32.shl' || name === 'i32.mul') {
      const [own, by] = a === 0 ? [b, args[0]] : [a, args[1]],
        times = constant(by);
      if (typeof own !== 'number' || (a !== 0 && b !== 0)) return worst(a, b) ?? 'far';
      if (times === undefined) return 'stride';
      return name === 'i32.mul' ? own * Number(times) : a === 0 ? 'far' : own * 2 ** Number(times);
    }
    // which of two steps it is, where the first is an even one: places side by side, taken by turns
    if (name === 'i32.and' && Number(constant(args[1])) === a && args[0].by?.kind === 'get' && found.even?.has(args[0].by.variable))
      return a;
    return 'far';
  }

  /** The variables that a loop moves on by a fixed number at the end of each step. */
  function stepsOf(loop, go) {
    const steps = new Map(),
      sets = [...allOf(loop.body)].filter((i) => i.kind === 'set');
    for (const i of go.body) {
      if (i.kind !== 'set' || sets.filter((o) => o.variable === i.variable).length > 1) continue;
      const { by } = i.args[0];
      if (by?.name !== 'i32.add') continue;
      const [from, amount] = by.args,
        says = /^\(u32\)(-?\d+)$/.exec(amount.says ?? '')?.[1];
      if (from.by?.kind === 'get' && from.by.variable === i.variable && says !== undefined) steps.set(i.variable, Number(says));
    }
    return steps;
  }
  /** The variables of those that begin at nought. */
  function fromNought(f, loop, steps) {
    const within = new Set(allOf(loop.body)),
      before = [...allOf(f.body)].filter((i) => i.kind === 'set' && !within.has(i));
    return new Set(
      [...steps.keys()].filter(
        (v) => f.variables[v].begins === null && before.every((i) => i.variable !== v || i.args[0].says === '(u32)0'),
      ),
    );
  }
  /** That nothing is read that the step before left behind. */
  function nothingCarried(loop, steps) {
    const written = new Set([...allOf(loop.body)].filter((i) => i.kind === 'set').map((i) => i.variable)),
      both = (a, b) => (!a ? b : !b ? a : new Set([...a].filter((v) => b.has(v))));
    function after(body, before) {
      let known = before;
      for (const i of body) {
        if (i.kind === 'get' && written.has(i.variable) && !known.has(i.variable) && !steps.has(i.variable))
          refuse('a step goes on from what the one before left');
        if (i.kind === 'set') known = new Set([...known, i.variable]);
        else if (/^br/.test(i.kind)) {
          for (const to of i.to) to.known = both(to.known, known);
          if (i.kind !== 'br_if') return null;
        } else if (i.kind === 'return') return null;
        else if (i.body) {
          i.known = null;
          const through = after(i.body, known),
            beside = i.kind !== 'if' ? null : i.other ? after(i.other, known) : known,
            arrived = i.kind === 'loop' ? null : i.known;
          known = both(both(through, beside), arrived);
          if (!known) return null;
        }
      }
      return known;
    }
    after(loop.body, new Set());
  }

  /** What differs where a loop takes two steps at once; or in a word why it cannot. */
  function loopSpread(loop, f) {
    const go = loop.body.at(-1);
    try {
      if (go?.kind !== 'if' || go.other || go.body.at(-1)?.kind !== 'br' || go.body.at(-1).to[0] !== loop)
        refuse('it is no loop with a counter');
      if ([...allOf(loop.body)].some((i) => i.kind === 'return')) refuse('it may end in its midst');
      const steps = stepsOf(loop, go);
      if (steps.size === 0) refuse('it has no counter');
      if (![...allOf(loop.body)].some((i) => i.kind === 'op' && i.name.startsWith('f32x4.'))) refuse('it does not work on four at a time');
      const back = [...allOf(loop.body)].filter((i) => /^br/.test(i.kind) && i.to.includes(loop));
      if (back.length > 1) refuse('it begins anew in its midst');
      nothingCarried(loop, steps);
      const found = {
        values: new Set(),
        variables: new Map(steps),
        moves: new Map(),
        steps,
        even: fromNought(f, loop, steps),
        returns: false,
      };
      settle(loop.body, found, go);
      if (!found.values.has(go.args[0])) refuse('its counter does not end it');
      return found;
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      return error.message;
    }
  }
  return { loopSpread, calledWith, called };
}

/** Marks each value with the instruction that made it, and constants with what they say. */
export function markValues(f) {
  for (const i of allOf(f.body))
    if (i.out) {
      i.out.by = i;
      if (i.kind === 'constant') i.out.says = i.text;
    }
}
