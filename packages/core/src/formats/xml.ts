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

function elementOf(raw: Raw): XmlElement | null {
  const name = Object.keys(raw).find((k) => k !== ':@');
  if (!name || name === '#text' || name.startsWith('?')) return null;
  const inner = raw[name] as Raw[],
    bare = name.replace(/^.*:/, '');
  return {
    name: bare,
    attributes: (raw[':@'] ?? {}) as Record<string, string>,
    text: inner
      .filter((r) => '#text' in r)
      .map((r) => String(r['#text']))
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
