import PDFDocument from 'pdfkit';
import sharp from 'sharp';

/** A finished file as it stands on a contact sheet. */
export interface Contact {
  path: string;
  name: string;
}
/** A4, in points: so many across and down. */
const page = { width: 595, height: 842, edge: 36, head: 40 },
  across = 4,
  down = 6,
  gap = 10,
  caption = 14;
const cell = {
  width: (page.width - 2 * page.edge - (across - 1) * gap) / across,
  height: (page.height - 2 * page.edge - page.head - (down - 1) * gap) / down,
};
/** The long edge of a picture on it, in pixels: 200 to the inch. */
const pixels = 360;

/** A small JPEG of a finished picture, in sRGB whatever it was delivered in; null where it cannot be read (any more). */
const small = (path: string): Promise<Buffer | null> =>
  sharp(path, { limitInputPixels: 4e8 })
    .resize(pixels, pixels, { fit: 'inside' })
    .toColourspace('srgb')
    .jpeg({ quality: 84 })
    .toBuffer()
    .catch(() => null);

/** Finished files, 24 to a page of A4, each over its name. What is not there any more is said in its place. */
export async function contactSheet(title: string, said: string, files: readonly Contact[]): Promise<Buffer> {
  const sheet = new PDFDocument({
      size: 'A4',
      margin: 0,
      autoFirstPage: false,
      info: { Title: `${title}: contact sheet`, Creator: 'Dyepot' },
    }),
    pieces: Buffer[] = [],
    done = new Promise<Buffer>((resolve, reject) => {
      sheet.on('data', (b: Buffer) => pieces.push(b));
      sheet.on('end', () => resolve(Buffer.concat(pieces)));
      sheet.on('error', reject);
    });
  const pages = Math.ceil(files.length / (across * down));
  for (const [i, { path, name }] of files.entries()) {
    const at = i % (across * down);
    if (at === 0) {
      sheet.addPage();
      const line = { width: page.width - 2 * page.edge, height: 14, ellipsis: true, lineBreak: false };
      sheet.font('Helvetica-Bold').fontSize(13).fillColor('#222').text(title, page.edge, page.edge, line);
      sheet
        .font('Helvetica')
        .fontSize(8)
        .fillColor('#555')
        .text(`${said}${pages > 1 ? `, page ${i / (across * down) + 1} of ${pages}` : ''}`, page.edge, page.edge + 17, line);
    }
    const left = page.edge + (at % across) * (cell.width + gap),
      top = page.edge + page.head + Math.floor(at / across) * (cell.height + gap),
      picture = await small(path),
      box = { fit: [cell.width, cell.height - caption] as [number, number], align: 'center' as const, valign: 'center' as const };
    if (picture) sheet.image(picture, left, top, box);
    else
      sheet
        .fontSize(7)
        .fillColor('#b23a12')
        .text('is not there any more', left, top + cell.height / 3, { width: cell.width, align: 'center' });
    sheet
      .fontSize(7)
      .fillColor('#222')
      .text(name, left, top + cell.height - caption + 4, {
        width: cell.width,
        height: 9,
        align: 'center',
        ellipsis: true,
        lineBreak: false,
      });
  }
  sheet.end();
  return done;
}
