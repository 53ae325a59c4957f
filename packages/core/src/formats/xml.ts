import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { textOf } from './cube.ts';

/** An element: its name, attributes, own text and children in order. */
export interface XmlElement {
  name: string;
  attributes: Record<string, string>;
  text: string;
  children: XmlElement[];
}
const parser = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: '',
  processEntities: false,
  parseTagValue: false,
  parseAttributeValue: false,
  trimValues: true,
  ignoreDeclaration: true,
  ignorePiTags: true,
});
type Raw = Record<string, unknown>;
const named: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };

/** Text with XML's own five entities and its character references read, once (XML 1.0, 4.1 and 4.6); others stay as they are. */
const plainText = (text: string): string =>
  text.replace(
    /&(?:#(\d{1,7})|#x([\da-f]{1,6})|(amp|lt|gt|quot|apos));/gi,
    (whole, decimal?: string, hexadecimal?: string, name?: string) => {
      if (name) return named[name.toLowerCase()]!;
      const code = decimal ? Number(decimal) : Number.parseInt(hexadecimal!, 16);
      return code > 0 && code <= 0x10ffff ? String.fromCodePoint(code) : whole;
    },
  );

function elementOf(raw: Raw): XmlElement | null {
  const name = Object.keys(raw).find((k) => k !== ':@');
  if (!name || name === '#text' || name.startsWith('?')) return null;
  const inner = raw[name] as Raw[],
    bare = name.replace(/^.*:/, '');
  return {
    name: bare,
    attributes: Object.fromEntries(Object.entries((raw[':@'] ?? {}) as Record<string, string>).map(([k, v]) => [k, plainText(v)])),
    text: inner
      .filter((r) => '#text' in r)
      .map((r) => plainText(String(r['#text'])))
      .join(' '),
    children: inner.map(elementOf).filter((e) => e !== null),
  };
}
/** Reads XML's first element. Entities are not expanded, and declaring them is refused. */
export function readXml(bytes: Uint8Array): { root: XmlElement } | { message: string } {
  const plain = textOf(bytes);
  if ('message' in plain) return plain;
  const declared = plain.text.search(/<!(ENTITY|DOCTYPE)/i);
  if (declared >= 0)
    return {
      message: `line ${plain.text.slice(0, declared).split('\n').length}: it declares a document type or entities, which are not read`,
    };
  const valid = XMLValidator.validate(plain.text);
  if (valid !== true) return { message: `line ${valid.err.line}: ${valid.err.msg}` };
  const root = (parser.parse(plain.text) as Raw[]).map(elementOf).find((e) => e !== null);
  return root ? { root } : { message: 'line 1: there is no element in it' };
}
/** Text made safe to stand in XML. */
export const escapeXml = (text: string): string => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);
export const child = (e: XmlElement, name: string): XmlElement | undefined => e.children.find((c) => c.name === name);
export const numbersOf = (text: string): number[] =>
  text.trim() === ''
    ? []
    : text
        .trim()
        .split(/[\s,]+/)
        .map(Number);
