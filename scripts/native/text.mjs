// The text form of the compiled kernels, read as trees of instructions over named values.

/** What each operation takes and gives. */
const operations = {};
const say = (signature, names) => {
  const [takes, gives] = signature.split('>').map((s) => s.trim());
  for (const name of names.split(' ')) operations[name] = { takes: takes.split(' '), gives: gives || null };
};
const of = (type, names) => names.replace(/\S+/g, (n) => `${type}.${n}`);
say('i32 i32 > i32', of('i32', 'add sub mul and or xor shl shr_s shr_u rem_s div_s eq ne lt_s lt_u le_s le_u gt_s gt_u ge_s ge_u'));
say('i32 > i32', 'i32.eqz');
say('i64 i64 > i64', 'i64.shr_u');
say('i64 > i32', 'i32.wrap_i64');
say('f32 f32 > f32', of('f32', 'add sub mul div min max'));
say('f32 f32 > i32', of('f32', 'eq ne lt le gt ge'));
say('f32 > f32', of('f32', 'floor ceil sqrt abs'));
say('f64 f64 > f64', of('f64', 'add sub mul div'));
say('f64 f64 > i32', of('f64', 'ge'));
say('f64 > f64', of('f64', 'floor'));
say('i32 > f32', of('f32', 'convert_i32_s convert_i32_u'));
say('i32 > f64', of('f64', 'convert_i32_s convert_i32_u'));
say('f32 > i32', of('i32', 'trunc_sat_f32_s trunc_sat_f32_u reinterpret_f32'));
say('f64 > i32', of('i32', 'trunc_sat_f64_s'));
say('v128 v128 > v128', of('f32x4', 'add sub mul div pmin pmax le lt gt ge eq'));
say('v128 v128 > v128', of('i32x4', 'add sub mul eq lt_s dot_i16x8_s'));
say('v128 v128 > v128', of('v128', 'and or xor andnot'));
say('v128 v128 > v128', 'i16x8.narrow_i32x4_u i16x8.narrow_i32x4_s i8x16.narrow_i16x8_u i8x16.shuffle');
say('v128 > v128', `${of('f32x4', 'sqrt floor nearest abs neg convert_i32x4_s')} ${of('i32x4', 'trunc_sat_f32x4_s trunc_sat_f32x4_u')}`);
say('v128 i32 > v128', of('i32x4', 'shl shr_s shr_u'));
say('v128 v128 v128 > v128', 'v128.bitselect');
say('f32 > v128', 'f32x4.splat');
say('i32 > v128', 'i32x4.splat');
say('v128 > i32', 'v128.any_true i32x4.all_true i32x4.extract_lane');
say('v128 > f32', 'f32x4.extract_lane');
say('v128 > i64', 'i64x2.extract_lane');
say('v128 f32 > v128', 'f32x4.replace_lane');
say('i32 > i32', of('i32', 'load load16_u load8_u'));
say('i32 > f32', 'f32.load');
say('i32 > v128', of('v128', 'load load32_splat load64_zero load32_zero load16x4_u'));
say('i32 v128 > v128', of('v128', 'load32_lane load64_lane'));
say('i32 i32 >', of('i32', 'store store16'));
say('i32 f32 >', 'f32.store');
say('i32 v128 >', of('v128', 'store store32_lane store64_lane'));
say('i32 i32 i32 >', 'memory.fill');

/** A number as C writes it. */
const asNumber = (word, suffix) => {
  if (/nan|0x/.test(word)) throw new Error(`a constant that is not known: ${word}`);
  return /inf/.test(word) ? word.replace('inf', '__builtin_inff()') : (/[.e]/.test(word) ? word : `${word}.0`) + suffix;
};
const constants = {
  'i32.const': ['i32', ([n]) => `(u32)${n}`],
  'i64.const': ['i64', ([n]) => `(u64)${n}`],
  'f32.const': ['f32', ([n]) => asNumber(n, 'f')],
  'f64.const': ['f64', ([n]) => asNumber(n, '')],
  'v128.const': ['v128', ([, ...words]) => `(v128)(u32x4){${words.join(', ')}}`],
};

/**
 * Reads the text that `asc --textFile` writes.
 * @returns globals (type by name), functions (by name: parameters' and locals' types, result, body), exports (names in and out)
 * @throws where something stands in it that is not known here
 */
export function readText(text) {
  const lines = text.split('\n').map((l) => l.trim()),
    module = { globals: {}, functions: {}, exports: [] };
  for (const line of lines) {
    const global = /^\(global (\$\S+) \(mut (\w+)\)/.exec(line),
      exported = /^\(export "(\w+)" \(func (\$\S+)\)\)/.exec(line);
    if (global) module.globals[global[1]] = global[2];
    if (exported) module.exports.push({ as: exported[1], name: exported[2] });
    if (/^\((import|data|table)/.test(line)) throw new Error(`not known: ${line}`);
    if (!line.startsWith('(func ')) continue;
    const name = /func (\$\S+)/.exec(line)[1],
      params = [...line.matchAll(/\(param \$\d+ (\w+)\)/g)].map((m) => m[1]);
    module.functions[name] = { name, params, locals: [...params], result: /\(result (\w+)\)/.exec(line)?.[1] ?? null, body: [] };
  }
  for (let at = 0; at < lines.length; at++)
    if (lines[at].startsWith('(func ')) at = readBody(lines, at + 1, module, module.functions[/func (\$\S+)/.exec(lines[at])[1]]);
  return module;
}

/** Reads the instructions of a function from a line on; returns where they end. */
function readBody(lines, from, { functions, globals }, f) {
  let at = from,
    values = 0;
  for (; lines[at].startsWith('(local '); at++) f.locals.push(/ (\w+)\)$/.exec(lines[at])[1]);
  const value = (type) => ({ id: values++, type }),
    stack = [],
    open = [];
  const target = (label) => {
    const found = open.findLast((b) => b.label === label);
    if (!found) throw new Error(`${f.name}: ${label}`);
    return found;
  };
  /** What a jump hands to the block it leaves. */
  const handed = (to) => (to.kind !== 'loop' && to.result ? stack.at(-1) : null);
  function inside(into) {
    const base = stack.length,
      pop = () => {
        if (stack.length <= base) throw new Error(`${f.name}: nothing to take at ${lines[at]}`);
        return stack.pop();
      },
      take = (n) => Array.from({ length: n }, pop).reverse(),
      push = (instruction, type) => {
        instruction.out = type && value(type);
        into.push(instruction);
        if (type) stack.push(instruction.out);
      };
    let dead = 0,
      ended = false;
    for (; lines[at] !== ')'; at++) {
      const [name, ...words] = lines[at].split(' ');
      if (ended) {
        // what cannot be reached is passed over
        if (/^(block|loop|if)$/.test(name)) dead++;
        else if (name === 'end' && dead > 0) dead--;
        else if (/^(end|else)$/.test(name) && dead === 0) break;
        continue;
      }
      const local = Number(words[0]?.slice(1));
      if (name === 'end' || name === 'else') break;
      if (/^(block|loop|if)$/.test(name)) {
        const result = /\(result (\w+)\)/.exec(lines[at])?.[1] ?? null,
          block = { kind: name, label: words[0]?.startsWith('$') ? words[0] : null, body: [], other: null, result: null };
        if (name === 'if') block.args = [pop()];
        block.result = result && value(result);
        const part = (body) => {
          at++;
          const gives = inside(body);
          if (gives) body.push({ kind: 'give', to: block, args: [gives], out: null });
          return body;
        };
        open.push(block);
        part(block.body);
        if (lines[at] === 'else') block.other = part([]);
        open.pop();
        into.push(block);
        if (block.result) stack.push(block.result);
      } else if (name === 'br' || name === 'br_table' || name === 'return') {
        const args = name === 'br_table' ? [pop()] : [];
        if (name === 'return') push({ kind: 'return', args: f.result ? [pop()] : [] }, null);
        else {
          const to = words.map(target),
            given = handed(to[0]);
          push({ kind: name, to, args, given }, null);
        }
        ended = true;
        stack.length = base;
      } else if (name === 'br_if') {
        const args = [pop()],
          to = [target(words[0])];
        push({ kind: name, to, args, given: handed(to[0]) }, null);
      } else if (name === 'local.get') push({ kind: 'get', local, args: [] }, f.locals[local]);
      else if (name === 'local.set') push({ kind: 'set', local, args: [pop()] }, null);
      else if (name === 'local.tee') push({ kind: 'set', local, args: [stack.at(-1)] }, null);
      else if (name === 'global.get') push({ kind: 'recall', global: words[0], args: [] }, globals[words[0]]);
      else if (name === 'global.set') push({ kind: 'keep', global: words[0], args: [pop()] }, null);
      else if (name === 'drop') pop();
      else if (name === 'select') {
        const args = take(3);
        push({ kind: 'select', args }, args[0].type);
      } else if (name === 'call')
        push({ kind: 'call', of: words[0], args: take(functions[words[0]].params.length) }, functions[words[0]].result);
      else if (constants[name]) push({ kind: 'constant', text: constants[name][1](words), args: [] }, constants[name][0]);
      else if (operations[name]) {
        const { takes, gives } = operations[name],
          args = take(takes.length),
          offset = /offset=(\d+)/.exec(lines[at])?.[1] ?? null,
          lanes = words.filter((w) => /^\d+$/.test(w)).map(Number);
        if (args.some((a, i) => a.type !== takes[i])) throw new Error(`${f.name}: ${lines[at]} is given another type`);
        push({ kind: 'op', name, offset, lanes, args }, gives);
      } else throw new Error(`${f.name}: not known: ${lines[at]}`);
    }
    // the value it ends with
    const gives = !ended && stack.length > base ? stack.pop() : null;
    stack.length = base;
    return gives;
  }
  const gives = inside(f.body);
  if (gives) f.body.push({ kind: 'return', args: [gives], out: null });
  return at;
}
