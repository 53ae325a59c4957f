import { escapeXml, readXml, type XmlElement } from './xml.ts';

// Sidecar files of the XMP specification (ISO 16684-1; part 2, XMP basic namespace): xmp:Rating, −1 rejected, 0 none, 1–5; xmp:Label, any words.

/** What a sidecar says of its picture; null where it says nothing. */
export interface SidecarSays {
  rating: number | null;
  label: string | null;
}
const namespace = 'http://ns.adobe.com/xap/1.0/';
/** A property of the basic namespace, whose usual prefix was once another. */
const own = /^(?:xmp|xap):(Rating|Label)$/;

function propertiesOf(element: XmlElement, found: Map<string, string>): void {
  if (element.name === 'Description')
    for (const [name, value] of Object.entries(element.attributes)) {
      const property = own.exec(name)?.[1];
      if (property && !found.has(property)) found.set(property, value);
    }
  for (const child of element.children) {
    if (element.name === 'Description' && (child.name === 'Rating' || child.name === 'Label') && !found.has(child.name))
      found.set(child.name, child.text);
    propertiesOf(child, found);
  }
}
/** Reads rating and label of a sidecar; a rating that is none is left out. */
export function readSidecar(bytes: Uint8Array): SidecarSays | { message: string } {
  const read = readXml(bytes);
  if ('message' in read) return read;
  const found = new Map<string, string>();
  propertiesOf(read.root, found);
  const rating = Number(found.get('Rating')?.trim() || Number.NaN);
  return {
    rating: Number.isFinite(rating) && rating >= -1 && rating <= 5 ? Math.round(rating) : null,
    label: found.get('Label')?.trim() || null,
  };
}

const fresh = `<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?>
<x:xmpmeta xmlns:x="adobe:ns:meta/">
 <rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">
  <rdf:Description rdf:about="">
  </rdf:Description>
 </rdf:RDF>
</x:xmpmeta>
<?xpacket end="w"?>
`;
/**
 * A sidecar that says a rating and a label (none where empty). All else in the one that was there stays as it is, letter by letter.
 * @param before the sidecar's text; null for a new one
 */
export function writeSidecar(
  before: string | null,
  { rating, label }: { rating: number; label: string },
): { text: string } | { message: string } {
  const text = before ?? fresh,
    sound = readXml(new TextEncoder().encode(text));
  if ('message' in sound) return sound;
  // as attributes or as elements, wherever it is said
  const without = text
      .replace(/\s+(?:xmp|xap):(?:Rating|Label)\s*=\s*(?:"[^"]*"|'[^']*')/g, '')
      .replace(/[ \t]*<(xmp|xap):(Rating|Label)\b[^>]*?(?:\/>|>[^<]*<\/\1:\2\s*>)[ \t]*\r?\n?/g, ''),
    said = `xmp:Rating="${rating}"${label ? ` xmp:Label="${escapeXml(label)}"` : ''}`,
    tag = /<rdf:Description\b[^>]*?(?=\s*\/?>)/.exec(without);
  if (!tag) return { message: 'it has no rdf:Description' };
  const declared = without.includes(`xmlns:xmp="${namespace}"`) || without.includes(`xmlns:xmp='${namespace}'`),
    end = tag.index + tag[0].length;
  const made = `${without.slice(0, end)}${declared ? '' : ` xmlns:xmp="${namespace}"`} ${said}${without.slice(end)}`,
    again = readSidecar(new TextEncoder().encode(made));
  if ('message' in again || again.rating !== rating || (again.label ?? '') !== label)
    return { message: 'it is written in a way that cannot be added to' };
  return { text: made };
}
