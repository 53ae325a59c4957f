import PDFDocument from 'pdfkit';
import type { Apart } from '@dyepot/core/src/match/card.ts';
import { spreadOf, whyOut } from '@dyepot/core/src/match/evenness.ts';

export interface ReportGroup {
  name: string;
  anchor: string;
  frames: readonly { name: string; apart: Apart }[];
}
export interface Report {
  title: string;
  /** the look it was seen through; empty for none */
  look: string;
  tolerance: number;
  groups: readonly ReportGroup[];
}

const [left, right, top, bottom] = [48, 547, 56, 790];
const signed = (v: number, digits: number): string => `${v < 0 ? '–' : '+'}${Math.abs(v).toFixed(digits)}`;

/** A report of evenness that can go with a delivery: a page or more of A4, each group with its frames, figures and what stands out. */
export function evennessPdf({ title, look, tolerance, groups }: Report): Promise<Buffer> {
  const page = new PDFDocument({ size: 'A4', margin: left, info: { Title: `${title}: evenness`, Creator: 'Dyepot' } }),
    pieces: Buffer[] = [],
    done = new Promise<Buffer>((resolve, reject) => {
      page.on('data', (b: Buffer) => pieces.push(b));
      page.on('end', () => resolve(Buffer.concat(pieces)));
      page.on('error', reject);
    });
  const all = groups.flatMap((g) => g.frames),
    even = all.filter((f) => f.apart.difference <= tolerance).length;
  let y = top;
  const room = (lines: number): void => {
    if (y + lines * 14 <= bottom) return;
    page.addPage();
    y = top;
  };
  page
    .font('Helvetica-Bold')
    .fontSize(18)
    .text(title, left, y, { width: right - left });
  y = page.y + 4;
  page
    .font('Helvetica')
    .fontSize(10)
    .text(
      `${even} of ${all.length} frames even: within ${tolerance.toFixed(1)} CIEDE2000 of their anchor${look ? `, under ${look}` : ''}`,
      left,
      y,
    );
  y = page.y + 14;
  for (const group of groups) {
    room(5);
    const spread = spreadOf(group.frames.map((f) => f.apart));
    page.font('Helvetica-Bold').fontSize(12).text(group.name, left, y, { width: 300, lineBreak: false });
    page
      .font('Helvetica')
      .fontSize(9)
      .text(`anchor ${group.anchor}; spread ${spread.ev.toFixed(2)} EV, ${spread.mired.toFixed(1)} mired`, left + 240, y + 3, {
        width: right - left - 240,
        align: 'right',
      });
    y += 20;
    for (const { name, apart } of group.frames) {
      const why = whyOut(apart, tolerance);
      room(why ? 2 : 1);
      page.fillColor(why ? '#b23a12' : '#222').fontSize(9);
      page.text(name, left, y, { width: 150, height: 12, ellipsis: true });
      page.text(`${signed(apart.ev, 2)} EV`, left + 160, y, { width: 60, align: 'right' });
      page.text(`${signed(apart.mired, 1)} mired`, left + 225, y, { width: 70, align: 'right' });
      page.text(`${apart.difference.toFixed(1)} dE`, left + 300, y, { width: 50, align: 'right' });
      // how far, as a bar with the tolerance marked
      const wide = right - left - 370,
        at = (v: number): number => left + 370 + wide * Math.min(1, v / (4 * tolerance));
      page.rect(left + 370, y + 2, Math.max(0.5, at(apart.difference) - left - 370), 6).fill(why ? '#e0633a' : '#9a9a9a');
      page
        .moveTo(at(tolerance), y)
        .lineTo(at(tolerance), y + 10)
        .lineWidth(0.6)
        .stroke('#222');
      y += 13;
      if (!why) continue;
      page
        .fillColor('#555')
        .fontSize(8)
        .text(why.replaceAll('ΔE', 'dE'), left + 12, y, { width: right - left - 12, height: 11, ellipsis: true });
      y += 13;
    }
    page.fillColor('#222');
    y += 10;
  }
  page.end();
  return done;
}
