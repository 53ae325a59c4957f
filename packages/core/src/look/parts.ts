import type { ParameterValue } from '../render/step.ts';
import type { Look, LookStep } from './look.ts';

/** What stands in a look but is a document of its own, and what it is called outside: by its file's ending. */
const endings = { 'dyepot-stock': 'stock.json', 'dyepot-picture': 'picture.json', table: 'table.json' } as const;

/** A look whose stocks, tables and pictures lie beside it, each in a file of its own. */
export interface LookParts {
  /** the look, with {"file": name} for each part */
  look: unknown;
  /** parts by the names of their files */
  parts: Map<string, unknown>;
}
/** Takes the documents out that stand in a look. The same look gives the same files. */
export function takeApart(look: Look): LookParts {
  const parts = new Map<string, unknown>();
  const out = (value: ParameterValue): unknown => {
    const sort = sortOf(value);
    if (!sort) return value;
    const { name, title } = value as { name?: string; title?: string },
      text = JSON.stringify(value);
    const known = [...parts].find(([, p]) => JSON.stringify(p) === text);
    if (known) return { file: known[0] };
    const file = freeName(fileName(name ?? title ?? 'table'), endings[sort], parts);
    parts.set(file, value);
    return { file };
  };
  const step = (s: LookStep): unknown => ({ ...s, params: Object.fromEntries(Object.entries(s.params).map(([key, v]) => [key, out(v)])) });
  return { look: { ...look, scene: look.scene.map(step), stock: step(look.stock), print: look.print.map(step) }, parts };
}
/** Puts a look's documents back where it names their files. Throws Error with a sentence for a part that is not there. */
export function putTogether(look: unknown, partOf: (file: string) => unknown): unknown {
  const back = (value: unknown): unknown => {
    const file = (value as { file?: unknown } | null)?.file;
    return typeof value === 'object' && typeof file === 'string' && !Array.isArray(value) ? partOf(file) : value;
  };
  const step = (s: unknown): unknown => {
    const { params } = (s ?? {}) as { params?: unknown };
    if (typeof params !== 'object' || params === null) return s;
    return { ...(s as object), params: Object.fromEntries(Object.entries(params).map(([key, v]) => [key, back(v)])) };
  };
  const { scene, stock, print } = look as Record<string, unknown>,
    lane = (steps: unknown): unknown => (Array.isArray(steps) ? steps.map(step) : steps);
  return { ...(look as object), scene: lane(scene), stock: step(stock), print: lane(print) };
}
function sortOf(value: unknown): keyof typeof endings | null {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return null;
  const { format, base64 } = value as { format?: string; base64?: unknown };
  if (format === 'dyepot-stock' || format === 'dyepot-picture') return format;
  return typeof base64 === 'string' ? 'table' : null;
}
/** A name as files and addresses take it everywhere: letters a–z, digits and hyphens. */
export function fileName(name: string): string {
  const plain = name
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 60);
  return plain === '' ? 'look' : plain;
}
/** A name nothing has yet. */
export function freeName(name: string, ending: string, taken: { has(name: string): boolean }): string {
  const full = (n: string): string => (ending === '' ? n : `${n}.${ending}`);
  if (!taken.has(full(name))) return full(name);
  for (let i = 2; ; i++) if (!taken.has(full(`${name}-${i}`))) return full(`${name}-${i}`);
}
