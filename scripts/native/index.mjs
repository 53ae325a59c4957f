// The kernels compiled for this machine, beside their WebAssembly: the same operations in the same order, so the same bytes, but eight
// lanes wide where those are four. They are for the server and the command line; where they cannot be made the others serve.
import { execFile } from 'node:child_process';
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { include_dir as headers } from 'node-api-headers';
import { addonOf } from './addon.mjs';
import { inC } from './emit.mjs';
import { markValues } from './spread.mjs';
import { readText } from './text.mjs';
import { nameWebs } from './webs.mjs';

const here = dirname(fileURLToPath(import.meta.url));
// no multiplication is drawn together with an addition: WebAssembly rounds after each
const flags = ['-O2', '-mavx2', '-ffp-contract=off', '-fwrapv', '-fno-strict-aliasing', '-fPIC', '-shared', '-w'],
  /** more registers and masks, a tenth faster where the machine has them */
  more = ['avx512f', 'avx512vl', 'avx512dq', 'avx512bw'];
function machineFlags() {
  try {
    const has = new Set(/^flags.*$/m.exec(readFileSync('/proc/cpuinfo', 'utf8'))[0].split(' '));
    return more.every((f) => has.has(f)) ? more.map((f) => `-m${f}`) : [];
  } catch {
    return [];
  }
}

/** The C of a module of Node with all kernels, from the text that `asc --textFile` writes. */
export function nativeSource(text) {
  const module = readText(text);
  for (const f of Object.values(module.functions)) {
    nameWebs(f);
    markValues(f);
  }
  const { instance, text: functions } = inC(module);
  return [readFileSync(join(here, 'operations.h'), 'utf8'), instance, functions, addonOf(module)].join('\n');
}

/**
 * Compiles the kernels' text into a module of Node.
 * @returns why there is none, or null
 */
export async function compileNative(text, out) {
  rmSync(out, { force: true });
  if (process.arch !== 'x64') return `they are compiled for x64 alone, and this is ${process.arch}`;
  const source = `${out}.c`;
  writeFileSync(source, nativeSource(readFileSync(text, 'utf8')));
  const why = await new Promise((resolve) =>
    execFile(process.env.CC ?? 'cc', [...flags, ...machineFlags(), `-I${headers}`, source, '-o', out], (error, _, said) =>
      resolve(error && (error.code === 'ENOENT' ? 'no C compiler is installed' : (said || error.message).slice(0, 400))),
    ),
  );
  rmSync(source, { force: true });
  if (why) rmSync(out, { force: true });
  return why;
}
