import { describe, expect, it } from 'vitest';
import { readSidecar, writeSidecar } from '../src/formats/sidecar.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text),
  said = (made: { text: string } | { message: string }): string => {
    if ('message' in made) throw new Error(made.message);
    return made.text;
  };
// shaped as the XMP specification's part 1 has its examples, with properties of other namespaces
const other = `<?xpacket begin='' id='W5M0MpCehiHzreSzNTczkc9d'?>
<x:xmpmeta xmlns:x='adobe:ns:meta/'>
<rdf:RDF xmlns:rdf='http://www.w3.org/1999/02/22-rdf-syntax-ns#'>
 <rdf:Description rdf:about='' xmlns:dc='http://purl.org/dc/elements/1.1/' xmlns:xmp='http://ns.adobe.com/xap/1.0/' dc:format='image/dng'>
  <xmp:Rating>2</xmp:Rating>
  <xmp:Label>for the web</xmp:Label>
  <dc:title><rdf:Alt><rdf:li xml:lang='x-default'>Skeins &amp; cloth</rdf:li></rdf:Alt></dc:title>
 </rdf:Description>
</rdf:RDF>
</x:xmpmeta>
<?xpacket end='w'?>`;

describe('sidecars', () => {
  it('are read whether they say a thing as an attribute or as an element, under the older prefix too', () => {
    expect(readSidecar(bytes(other))).toEqual({ rating: 2, label: 'for the web' });
    const old = other.replace(/xmp:/g, 'xap:').replace('<xap:Rating>2</xap:Rating>', '').replace('dc:format', "xap:Rating='-1' dc:format");
    expect(readSidecar(bytes(old))).toEqual({ rating: -1, label: 'for the web' });
  });
  it('say what was written into them, and keep all else letter by letter', () => {
    const made = said(writeSidecar(other, { rating: 5, label: 'ask “them” & us' }));
    expect(readSidecar(bytes(made))).toEqual({ rating: 5, label: 'ask “them” & us' });
    const bare = (text: string): string =>
      text.replace(/\s*<xmp:(Rating|Label)>[^<]*<\/xmp:\1>/g, '').replace(/ xmp:(Rating|Label)="[^"]*"/g, '');
    expect(bare(made)).toBe(bare(other));
    // once more the same is the same
    expect(said(writeSidecar(made, { rating: 5, label: 'ask “them” & us' }))).toBe(made);
    expect(readSidecar(bytes(said(writeSidecar(made, { rating: 0, label: '' }))))).toEqual({ rating: 0, label: null });
    expect(readSidecar(bytes(said(writeSidecar(null, { rating: -1, label: '' }))))).toEqual({ rating: -1, label: null });
  });
  it('that are none are left as they are, with the reason', () => {
    for (const [text, words] of [
      ['<a><b></a>', /line 1/],
      ['<!DOCTYPE x [<!ENTITY e "e">]><x>&e;</x>', /document type/],
      ['<x:xmpmeta xmlns:x="adobe:ns:meta/"/>', /rdf:Description/],
      ['', /./],
    ] as const)
      expect((writeSidecar(text, { rating: 1, label: '' }) as { message: string }).message).toMatch(words);
    // what is no rating is none
    expect(readSidecar(bytes(other.replace('>2<', '>many<')))).toEqual({ rating: null, label: 'for the web' });
    expect(readSidecar(bytes(other.replace('>2<', '>99<')))).toEqual({ rating: null, label: 'for the web' });
  });
});
