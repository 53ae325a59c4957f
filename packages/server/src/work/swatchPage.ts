import sharp from 'sharp';
import { onePage, short, svgText } from './svgText.ts';

/** A swatch card as it leaves: frames across, looks down, a picture (a JPEG's path) in each cell. */
export interface SwatchPage {
  title: string;
  frames: readonly string[];
  looks: readonly { name: string; strip: readonly string[]; cells: readonly { file: string; said: 'best' | 'out' | null }[] }[];
}
const cell = { width: 360, height: 240, gap: 14, side: 210, head: 74 } as const;
const sizeOf = ({ frames, looks }: SwatchPage): { width: number; height: number } => ({
  width: cell.side + frames.length * (cell.width + cell.gap) + cell.gap,
  height: cell.head + looks.length * (cell.height + cell.gap) + cell.gap,
});
const placeOf = (row: number, column: number): { left: number; top: number } => ({
  left: cell.side + column * (cell.width + cell.gap),
  top: cell.head + row * (cell.height + cell.gap),
});
/** Names, strips and signs, drawn over or beside the pictures. */
function labels(page: SwatchPage): string {
  const { width, height } = sizeOf(page),
    parts = [svgText(14, 32, short(page.title, 60), { size: 20, weight: 700 })];
  page.frames.forEach((name, c) => parts.push(svgText(placeOf(0, c).left, cell.head - 12, short(name, 38))));
  page.looks.forEach((look, r) => {
    const { top } = placeOf(r, 0);
    parts.push(svgText(14, top + 20, short(look.name, 24), { weight: 600 }));
    look.strip.forEach((colour, i) => parts.push(`<rect x="${14 + i * 13}" y="${top + 32}" width="13" height="16" fill="${colour}"/>`));
    look.cells.forEach(({ said }, c) => {
      const at = placeOf(r, c);
      if (said === 'best')
        parts.push(`<circle cx="${at.left + 18}" cy="${at.top + 18}" r="9" fill="#e0633a" stroke="#fff" stroke-width="2"/>`);
      if (said === 'out')
        parts.push(
          `<path d="M${at.left} ${at.top}l${cell.width} ${cell.height}m0 -${cell.height}l-${cell.width} ${cell.height}" stroke="#fff" stroke-width="3"/>`,
        );
    });
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${parts.join('')}</svg>`;
}

/** The card as one picture. */
export async function swatchPng(page: SwatchPage): Promise<Buffer> {
  const pictures = await Promise.all(
    page.looks.flatMap((look, r) =>
      look.cells.map(async ({ file, said }, c) => ({
        ...placeOf(r, c),
        input: await sharp(file)
          .resize(cell.width, cell.height, { fit: 'contain', background: '#6b6b6b' })
          .linear(said === 'out' ? 0.45 : 1, 0)
          .toBuffer(),
      })),
    ),
  );
  return sharp({ create: { ...sizeOf(page), channels: 3, background: '#6b6b6b' } })
    .composite([...pictures, { input: Buffer.from(labels(page)), left: 0, top: 0 }])
    .withExif({ IFD0: { Software: 'Dyepot' } })
    .png()
    .toBuffer();
}
/** The card on one page as large as it is: at half a point a pixel two frames across are about as wide as a sheet of A4. */
export const swatchPdf = async (page: SwatchPage): Promise<Buffer> =>
  onePage(`${page.title}: swatch card`, await swatchPng(page), sizeOf(page));
