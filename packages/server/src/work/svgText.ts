import PDFDocument from 'pdfkit';

const escaped = (text: string): string => text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);
/** A text no longer than so many letters. */
export const short = (text: string, most: number): string => (text.length > most ? `${text.slice(0, most - 1)}…` : text);
/** A line of text in a drawing. */
export const svgText = (x: number, y: number, words: string, { size = 15, weight = 400, colour = '#f1f0ef' } = {}): string =>
  `<text x="${x}" y="${y}" font-size="${size}" font-weight="${weight}" fill="${colour}" font-family="sans-serif">${escaped(words)}</text>`;
/** Words in lines of at most so many letters. */
export function inLines(text: string, most: number): string[] {
  const lines: string[] = [];
  for (const paragraph of text.split('\n')) {
    let line = '';
    for (const word of paragraph.split(/\s+/)) {
      if (line !== '' && line.length + 1 + word.length > most) {
        lines.push(line);
        line = '';
      }
      line = line === '' ? short(word, most) : `${line} ${word}`;
    }
    lines.push(line);
  }
  return lines;
}
/** A picture as a PDF of one page as large as it is, at so many pixels a point. */
export async function onePage(title: string, picture: Buffer, size: { width: number; height: number }, pixelsAPoint = 2): Promise<Buffer> {
  const [width, height] = [size.width / pixelsAPoint, size.height / pixelsAPoint],
    document = new PDFDocument({ size: [width, height], margin: 0, info: { Title: title, Creator: 'Dyepot' } }),
    pieces: Buffer[] = [];
  return new Promise((resolve, reject) => {
    document.on('data', (b: Buffer) => pieces.push(b));
    document.on('end', () => resolve(Buffer.concat(pieces)));
    document.on('error', reject);
    document.image(picture, 0, 0, { width, height });
    document.end();
  });
}
