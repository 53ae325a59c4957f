import { cameraLight, expose, type Exposure } from './sensor.ts';
import { writeDng, type DngOptions } from './dng.ts';
import { previewOf } from './preview.ts';
import type { Light } from './render-light.ts';

export interface TakeOptions extends Exposure {
  width: number; height: number;
  compression: DngOptions['compression'];
  layout: DngOptions['layout'];
  time?: string;
  focalMm?: number; aperture?: number;
}

/** Takes one picture of rendered light; returns the DNG file and what was true. */
export async function take(light: Light, o: TakeOptions): Promise<{ file: Uint8Array; truth: object; camera: Float32Array }> {
  const shot = expose(cameraLight(light, o.width, o.height), o.width, o.height, o);
  const baselineExposureEv = 0.7;
  const file = writeDng(shot, o, {
    compression: o.compression, layout: o.layout, preview: await previewOf(shot, o.ev), baselineExposureEv,
    exif: { iso: o.iso, shutterSeconds: (1 / 125) * 2 ** o.ev, aperture: o.aperture ?? 4, focalMm: o.focalMm ?? 40, time: o.time ?? '2026:10:12 09:30:00' },
  });
  return { file, camera: shot.camera, truth: { ev: o.ev, kelvin: light.kelvin, believedKelvin: o.believedKelvin, iso: o.iso, chart: light.chart } };
}
