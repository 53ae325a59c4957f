/**
 * The number a person typed, with or without its unit; a comma is a point, − a minus. Null for anything else, so that nonsense
 * changes nothing.
 */
export function readNumber(typed: string, unit = ''): number | null {
  const text = typed.trim().replaceAll('−', '-').replace(',', '.'),
    ended = unit !== '' && text.toLowerCase().endsWith(unit.toLowerCase()) ? text.slice(0, -unit.length).trim() : text;
  return /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d{1,2})?$/i.test(ended) ? Number(ended) : null;
}
