import sharp from 'sharp';
import { inLines, onePage, short, svgText } from './svgText.ts';

/** A look as a client is shown it: before and after on some frames (JPEGs' paths), its dye strip, its steps in words, its notes. */
export interface LookPage {
  name: string;
  said: string;
  strip: readonly string[];
  notes: string;
  frames: readonly { name: string; before: string; after: string }[];
  steps: readonly { name: string; words: string }[];
}
/** A sheet of A4 across, at two pixels a point; as high as it must be. */
const width = 1190,
  edge = 60,
  gap = 20,
  picture = { width: (width - 2 * edge - gap) / 2, height: 350 },
  line = 24;
const dim = '#c9c8c6';

/** Where things stand, from the top. */
function layOut({ notes, frames, steps }: LookPage): {
  notes: string[];
  steps: string[][];
  pictures: number;
  words: number;
  height: number;
} {
  const said = notes === '' ? [] : inLines(notes, 110),
    words = steps.map((s) => inLines(s.words, 84)),
    pictures = 150 + said.length * line + gap,
    under = pictures + frames.length * (picture.height + 34 + gap);
  return {
    notes: said,
    steps: words,
    pictures,
    words: under,
    height: Math.max(1684, under + 50 + words.reduce((sum, w) => sum + w.length * line + 6, 0) + edge),
  };
}
/** The sheet as one picture. */
export async function lookPng(page: LookPage): Promise<Buffer> {
  const at = layOut(page),
    chip = (width - 2 * edge) / page.strip.length,
    drawn = [
      svgText(edge, 76, short(page.name, 44), { size: 40, weight: 700 }),
      svgText(edge, 108, short(page.said, 110), { size: 17, colour: dim }),
      ...page.strip.map((c, i) => `<rect x="${edge + i * chip}" y="122" width="${chip + 0.5}" height="18" fill="${c}"/>`),
      ...at.notes.map((n, i) => svgText(edge, 172 + i * line, n, { size: 17 })),
      svgText(edge, at.words + 30, 'Step by step', { size: 20, weight: 700 }),
    ];
  let y = at.words + 62;
  page.steps.forEach((s, i) => {
    drawn.push(svgText(edge, y, short(s.name, 28), { size: 17, weight: 600 }));
    at.steps[i]!.forEach((w, k) => drawn.push(svgText(edge + 280, y + k * line, w, { size: 17, colour: dim })));
    y += at.steps[i]!.length * line + 6;
  });
  const rows = page.frames.map((f, i) => {
    const top = at.pictures + i * (picture.height + 34 + gap);
    drawn.push(
      svgText(edge, top + picture.height + 24, `${short(f.name, 40)}, without it`, { colour: dim }),
      svgText(edge + picture.width + gap, top + picture.height + 24, `under ${short(page.name, 40)}`, { colour: dim }),
    );
    return { top, ...f };
  });
  const pictures = await Promise.all(
    rows.flatMap(({ top, before, after }) =>
      [before, after].map(async (file, k) => ({
        left: Math.round(edge + k * (picture.width + gap)),
        top,
        input: await sharp(file).resize(Math.round(picture.width), picture.height, { fit: 'contain', background: '#3a3a3a' }).toBuffer(),
      })),
    ),
  );
  const words = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${at.height}">${drawn.join('')}</svg>`;
  return sharp({ create: { width, height: at.height, channels: 3, background: '#3a3a3a' } })
    .composite([...pictures, { input: Buffer.from(words), left: 0, top: 0 }])
    .withExif({ IFD0: { Software: 'Dyepot' } })
    .png()
    .toBuffer();
}
/** The sheet as a PDF of one page. */
export const lookPdf = async (page: LookPage): Promise<Buffer> =>
  onePage(`${page.name}: look sheet`, await lookPng(page), { width, height: layOut(page).height });
