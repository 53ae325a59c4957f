// The kernels in C: each as it is, and before each loop over pixels the same loop taking two steps at once.
import { spreader } from './spread.mjs';

const types = { i32: 'u32', i64: 'u64', f32: 'f32', f64: 'f64', v128: 'v128' };
const named = (name) => name.replace(/[^A-Za-z0-9]/g, '_');
/** Operations that act on each lane alone, of whatever width. */
const laneWise = (name) => /^(f32x4|i32x4|i16x8|i8x16|v128)\./.test(name) && !/(load|store|splat|_lane)/.test(name);

/**
 * @param module as `readText` gives it, its webs named and its values marked
 * @returns C: the instance, the functions, and by export what is called
 */
export function inC(module) {
  const wideGlobals = new Set(),
    { loopSpread, calledWith, called } = spreader(module, wideGlobals),
    functions = Object.values(module.functions),
    spreads = new Map(),
    outermost = (body, f) => {
      for (const i of body) {
        const found = i.kind === 'loop' ? loopSpread(i, f) : null;
        if (found && typeof found !== 'string') spreads.set(i, found);
        else for (const part of [i.body, i.other]) if (part) outermost(part, f);
      }
    };
  // twice: what is found of a global late may matter to a loop seen early
  for (let k = 0; k < 2; k++) {
    called.clear();
    for (const f of functions) outermost(f.body, f);
  }
  const fields = Object.entries(module.globals).map(([name, type]) => {
      const wide = !wideGlobals.has(name) ? '' : type === 'v128' ? ` v256 w${named(name)};` : ` ${types[type]} h${named(name)};`;
      return `  ${types[type]} ${named(name)};${wide}`;
    }),
    heads = [],
    bodies = [];
  const write = (head, body) => {
    heads.push(`${head};`);
    bodies.push(`${head} {\n${body.join('\n')}\n}`);
  };
  let labels = 0;
  for (const f of functions) {
    const params = f.params.map((type, i) => `, ${types[type]} p${i}`).join(''),
      head = `static ${f.result ? types[f.result] : 'void'} ${named(f.name)}(instance *const in, u8 *const mem${params})`;
    write(head, [...declared(f, null, []), ...written(f.body, { f, found: null })]);
  }
  for (const { f, differs, id, found } of called.values()) {
    const kind = (type, i) =>
        !differs[i] ? `, ${types[type]} p${i}` : type === 'v128' ? `, v256 p${i}` : `, ${types[type]} p${i}, ${types[type]} q${i}`,
      head = `static ${found.returns ? 'v256' : f.result ? types[f.result] : 'void'} wide${id}${named(f.name)}(instance *const in, u8 *const mem${f.params.map(kind).join('')})`;
    write(head, [...declared(f, found, differs), ...written(f.body, { f, found })]);
  }
  return { instance: ['typedef struct {', '  u8 *mem;', ...fields, '} instance;'].join('\n'), text: [...heads, ...bodies].join('\n') };

  /** A function's variables; those that differ as two or as wide ones. `given`: which of its parameters differ. */
  function declared(f, found, given) {
    return f.variables.map(({ type, begins }, v) => {
      const none = type === 'v128' ? '(v128){0}' : '0',
        first = begins === null ? none : `p${begins}`;
      if (!found?.variables.has(v)) return `${types[type]} l${v} = ${first};`;
      const two = begins !== null && given[begins];
      if (type === 'v128') return `v256 w${v} = ${two ? first : `dup(${first})`};`;
      return `${types[type]} l${v} = ${first}, h${v} = ${two ? `q${begins}` : first};`;
    });
  }
  function written(body, context) {
    return body.flatMap((i) => one(i, context));
  }
  function one(i, context) {
    const { found, f } = context,
      differs = (v) => found?.values.has(v) ?? false,
      low = (v) => (differs(v) && v.type === 'v128' ? `lo(x${v.id})` : `t${v.id}`),
      high = (v) => (!differs(v) ? `t${v.id}` : v.type === 'v128' ? `hi(x${v.id})` : `y${v.id}`),
      wide = (v) => (differs(v) ? `x${v.id}` : `dup(t${v.id})`),
      type = i.out && types[i.out.type],
      is = (e) => `${type} t${i.out.id} = ${e};`,
      isWide = (e) => `v256 x${i.out.id} = ${e};`,
      are = (a, b) => `${type} t${i.out.id} = ${a}, y${i.out.id} = ${b};`,
      pair = (a, b) => isWide(`pair(${a}, ${b})`),
      hand = (to, v) =>
        !to.result || !v
          ? []
          : !differs(to.result)
            ? [`t${to.result.id} = t${v.id};`]
            : v.type === 'v128'
              ? [`x${to.result.id} = ${wide(v)};`]
              : [`t${to.result.id} = ${low(v)}; y${to.result.id} = ${high(v)};`],
      go = (to, v) => [...(to.kind === 'loop' ? [] : hand(to, v)), `goto ${labelOf(to, context)};`].join(' '),
      own = (variable) => found?.variables.has(variable) ?? false;
    if (i.kind === 'get') {
      if (!own(i.variable)) return [is(`l${i.variable}`)];
      return [i.out.type === 'v128' ? isWide(`w${i.variable}`) : are(`l${i.variable}`, `h${i.variable}`)];
    }
    if (i.kind === 'set') {
      const [v] = i.args;
      if (!own(i.variable)) return [`l${i.variable} = t${v.id};`];
      return [v.type === 'v128' ? `w${i.variable} = ${wide(v)};` : `l${i.variable} = ${low(v)}; h${i.variable} = ${high(v)};`];
    }
    if (i.kind === 'constant') return [is(i.text)];
    const shared = i.global && found && wideGlobals.has(i.global);
    if (i.kind === 'recall') {
      if (!shared) return [is(`in->${named(i.global)}`)];
      return [i.out.type === 'v128' ? isWide(`in->w${named(i.global)}`) : are(`in->${named(i.global)}`, `in->h${named(i.global)}`)];
    }
    if (i.kind === 'keep') {
      const [v] = i.args;
      if (!shared) return [`in->${named(i.global)} = t${v.id};`];
      return [
        v.type === 'v128'
          ? `in->w${named(i.global)} = ${wide(v)};`
          : `in->${named(i.global)} = ${low(v)}; in->h${named(i.global)} = ${high(v)};`,
      ];
    }
    if (i.kind === 'give') return hand(i.to, i.args[0]);
    if (i.kind === 'br') return [go(i.to[0], i.given)];
    if (i.kind === 'br_if') return [`if (t${i.args[0].id}) { ${go(i.to[0], i.given)} }`];
    if (i.kind === 'br_table')
      return [
        `switch (t${i.args[0].id}) {`,
        ...i.to.map((to, k) => `${k === i.to.length - 1 ? 'default' : `case ${k}`}: ${go(to, i.given)}`),
        '}',
      ];
    if (i.kind === 'return') return [i.args.length === 0 ? 'return;' : `return ${found?.returns ? wide(i.args[0]) : `t${i.args[0].id}`};`];
    if (i.kind === 'block' || i.kind === 'if') {
      const before = !i.result
          ? []
          : !differs(i.result)
            ? [`${types[i.result.type]} t${i.result.id};`]
            : i.result.type === 'v128'
              ? [`v256 x${i.result.id};`]
              : [`${types[i.result.type]} t${i.result.id}, y${i.result.id};`],
        label = labelOf(i, context),
        inside = written(i.body, context),
        other = i.other && written(i.other, context);
      return [
        ...before,
        i.kind === 'if' ? `if (t${i.args[0].id}) {` : '{',
        ...inside,
        ...(other ? ['} else {', ...other] : []),
        '}',
        `${label}:;`,
      ];
    }
    if (i.kind === 'loop') {
      const spread = found ? null : spreads.get(i);
      return [...(spread ? twoAtOnce(i, spread, f) : []), `${labelOf(i, context)}:; {`, ...written(i.body, context), '}'];
    }
    if (i.kind === 'call') {
      const callee = module.functions[i.of],
        some = i.args.map(differs);
      if (!found) {
        const call = `${named(callee.name)}(in, mem${i.args.map((a) => `, t${a.id}`).join('')})`;
        return [i.out ? is(call) : `${call};`];
      }
      const { id, found: inside } = calledWith(i.of, some),
        args = i.args.map((a, k) => (!some[k] ? `, t${a.id}` : a.type === 'v128' ? `, x${a.id}` : `, t${a.id}, y${a.id}`)),
        call = `wide${id}${named(callee.name)}(in, mem${args.join('')})`;
      return [!i.out ? `${call};` : inside.returns ? isWide(call) : is(call)];
    }
    if (i.kind === 'select') {
      const [a, b, c] = i.args;
      if (!differs(i.out)) return [is(`t${c.id} ? t${a.id} : t${b.id}`)];
      if (i.out.type !== 'v128') return [are(`${low(c)} ? ${low(a)} : ${low(b)}`, `${high(c)} ? ${high(a)} : ${high(b)}`)];
      return [
        differs(c)
          ? pair(`${low(c)} ? ${low(a)} : ${low(b)}`, `${high(c)} ? ${high(a)} : ${high(b)}`)
          : isWide(`t${c.id} ? ${wide(a)} : ${wide(b)}`),
      ];
    }
    return operation(i, { differs, low, high, wide, is, isWide, are, pair, moves: found?.moves });
  }
  function operation(i, { differs, low, high, wide, is, isWide, are, pair, moves }) {
    const name = named(i.name),
      memory = /\.(load|store)|memory/.test(i.name),
      at = (v, side) => (memory && v === i.args[0] ? `mem + ${side(v)}${i.offset ? ` + ${i.offset}ull` : ''}` : side(v)),
      lanes = i.lanes.length === 0 ? '' : `, ${i.lanes.join(', ')}`,
      call = (side, prefix = '') => `${prefix}${name}(${i.args.map((v) => at(v, side)).join(', ')}${lanes})`,
      one = (v) => `t${v.id}`;
    if (i.name === 'memory.fill') return [`memset(mem + ${one(i.args[0])}, ${one(i.args[1])}, ${one(i.args[2])});`];
    if (!i.args.some(differs)) return [i.out ? is(call(one)) : `${call(one)};`];
    const step = moves.get(i.args[0]);
    if (!i.out) {
      if (i.name === 'v128.store' && step === 16) return [`w_v128_store(${at(i.args[0], low)}, ${wide(i.args[1])});`];
      return [`${call(low)}; ${call(high)};`];
    }
    if (/any_true|all_true/.test(i.name)) return [is(`w_${name}(${wide(i.args[0])})`)];
    if (i.out.type !== 'v128') return [are(call(low), call(high))];
    if (laneWise(i.name)) {
      const side = (v) => (v.type === 'v128' ? wide(v) : one(v));
      return [isWide(call(side, 'w_'))];
    }
    if ((i.name === 'v128.load' && step === 16) || (i.name === 'v128.load16x4_u' && step === 8)) return [isWide(call(low, 'w_'))];
    return [pair(call(low), call(high))];
  }
  function labelOf(block, context) {
    const known = (context.labels ??= new Map());
    if (!known.has(block)) known.set(block, `at${labels++}`);
    return known.get(block);
  }
  /** A loop while there are two more steps of it, both taken at once. */
  function twoAtOnce(loop, found, f) {
    const context = { f, found },
      { steps } = found,
      begin = `at${labels++}`,
      end = `at${labels++}`,
      go = loop.body.at(-1),
      touched = [...found.variables.keys()],
      narrow = touched.filter((v) => f.variables[v].type !== 'v128'),
      broad = touched.filter((v) => f.variables[v].type === 'v128');
    context.labels = new Map([[loop, begin]]);
    const further = [...steps.keys()].map((v) => `l${v} = h${v};`);
    const body = written(loop.body.slice(0, -1), context),
      inside = written(go.body.slice(0, -1), context),
      c = go.args[0];
    return [
      '{',
      ...narrow.map((v) => `${types[f.variables[v].type]} h${v} = l${v};`),
      ...broad.map((v) => `v256 w${v} = dup(l${v});`),
      `${begin}:; {`,
      ...[...steps].map(([v, by]) => `h${v} = l${v} + ${by}u;`),
      ...body,
      `if (!(t${c.id} && y${c.id})) goto ${end};`,
      ...inside,
      ...further,
      `goto ${begin};`,
      '}',
      `${end}:;`,
      ...narrow.filter((v) => !steps.has(v)).map((v) => `l${v} = h${v};`),
      ...broad.map((v) => `l${v} = hi(w${v});`),
      '}',
    ];
  }
}
