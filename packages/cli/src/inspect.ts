import { neutralToXy } from '@dyepot/core/src/colour/cameraProfile.ts';
import { temperatureOf } from '@dyepot/core/src/colour/temperature.ts';
import { readFacts } from '@dyepot/server/src/decode/decode.ts';
import { inspectTable } from '@dyepot/core/src/formats/inspectTable.ts';
import { isTable, parse, tableFrom } from './options.ts';

/** `dyepot inspect`: what each raw file says, and what is to be said of each table. */
export async function inspect(args: string[]): Promise<number> {
  const { flags, positionals } = parse(args, []);
  if (positionals.length === 0) throw new Error('inspect needs at least one file');
  let failed = 0;
  const answers: object[] = [];
  for (const file of positionals) {
    try {
      if (isTable(file)) {
        const { kind, table, warnings } = await tableFrom(file),
          { grey, ...report } = inspectTable(table),
          answer = {
            file,
            format: kind,
            title: table.title,
            kind: table.kind,
            size: table.size,
            domainMin: table.domainMin,
            domainMax: table.domainMax,
            ...report,
            warnings: [...warnings, ...report.warnings],
            grey: grey.filter((_, i) => i % Math.ceil(grey.length / 9) === 0 || i === grey.length - 1),
          };
        answers.push(answer);
        if (!flags['json'])
          process.stdout.write(
            `${file}\n  table       ${table.kind === '3d' ? `${table.size}³` : `1D, ${table.size}`}${table.title ? `, “${table.title}”` : ''}\n  clips       low ${(report.clippedLow * 100).toFixed(1)} %, high ${(report.clippedHigh * 100).toFixed(1)} %\n  folded      ${(report.folded * 100).toFixed(2)} %\n${answer.warnings.map((w) => `  note        ${w}\n`).join('')}`,
          );
        continue;
      }
      const f = await readFacts(file),
        { kelvin, tintDuv } = temperatureOf(neutralToXy(f.profile, f.profile.asShotNeutral));
      const multipliers = f.profile.asShotNeutral.map((v) => Math.round((f.profile.asShotNeutral[1] / v) * 1e4) / 1e4);
      const answer = {
        file,
        width: f.width,
        height: f.height,
        camera: f.camera,
        lens: f.lens,
        mosaic: f.mosaic,
        black: f.black,
        white: f.white,
        asShotMultipliers: multipliers,
        kelvin: Math.round(kelvin),
        tintDuv: Math.round(tintDuv * 1e5) / 1e5,
        baselineExposureEv: f.profile.baselineExposureEv,
        exif: f.exif,
      };
      answers.push(answer);
      if (!flags['json']) {
        process.stdout.write(
          `${file}\n  size        ${f.width} × ${f.height}\n  camera      ${f.camera}${f.lens ? `, ${f.lens}` : ''}\n  mosaic      ${f.mosaic}\n  levels      black ${f.black.join(' ')}, white ${f.white}\n  as shot     ${multipliers.join(' ')} (${answer.kelvin} K, tint ${answer.tintDuv})\n  exposure    ISO ${f.exif.iso}, ${f.exif.shutterSeconds.toPrecision(3)} s, f/${f.exif.aperture}, ${f.exif.focalMm} mm, ${f.exif.takenAt ?? 'no time'}\n`,
        );
      }
    } catch (error) {
      failed++;
      const message = error instanceof Error ? error.message : String(error);
      answers.push({ file, error: message });
      process.stderr.write(`dyepot: ${message}\n`);
    }
  }
  if (flags['json']) process.stdout.write(`${JSON.stringify(answers, null, 2)}\n`);
  return failed > 0 ? 1 : 0;
}
