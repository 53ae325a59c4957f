/** Who made a picture, as its file says. */
export interface Credit {
  author: string;
  copyright: string;
  /** an address, by which they are reached */
  contact: string;
}
/** The look that made it. */
export interface LookSaid {
  name: string;
  revision: number | null;
}
const escaped = (text: string): string =>
  text
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/"/g, '&quot;')
    // XML 1.0 has no other control characters
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '');

/** An XMP packet (ISO 16684-1): Dublin Core and IPTC Core for the credit, a namespace of our own for the look; null where nothing is to be said. */
export function writeXmp(credit: Credit | null, look: LookSaid | null): string | null {
  const { author = '', copyright = '', contact = '' } = credit ?? {};
  const lines = [
    author && `   <dc:creator><rdf:Seq><rdf:li>${escaped(author)}</rdf:li></rdf:Seq></dc:creator>`,
    copyright && `   <dc:rights><rdf:Alt><rdf:li xml:lang="x-default">${escaped(copyright)}</rdf:li></rdf:Alt></dc:rights>`,
    contact &&
      `   <Iptc4xmpCore:CreatorContactInfo rdf:parseType="Resource"><Iptc4xmpCore:CiEmailWork>${escaped(contact)}</Iptc4xmpCore:CiEmailWork></Iptc4xmpCore:CreatorContactInfo>`,
    look && `   <dyepot:Look>${escaped(look.name)}</dyepot:Look>`,
    look?.revision && `   <dyepot:LookRevision>${look.revision}</dyepot:LookRevision>`,
  ].filter(Boolean);
  if (lines.length === 0) return null;
  return [
    '<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?>',
    '<x:xmpmeta xmlns:x="adobe:ns:meta/">',
    ' <rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">',
    '  <rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:Iptc4xmpCore="http://iptc.org/std/Iptc4xmpCore/1.0/xmlns/" xmlns:dyepot="urn:dyepot:look:1">',
    ...lines,
    '  </rdf:Description>',
    ' </rdf:RDF>',
    '</x:xmpmeta>',
    '<?xpacket end="w"?>',
  ].join('\n');
}
