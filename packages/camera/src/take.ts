import type { FileLens } from '@dyepot/core/src/groundwork/lens.ts';
import { blemished, type Mark, type Wire } from './blemish.ts';
import { underDust, type Mote } from './dust.ts';
import { throughGlass } from './glass.ts';
import { cameraLight, expose, type Exposure } from './sensor.ts';
import { writeDng, type DngOptions } from './dng.ts';
import { previewOf } from './preview.ts';
import type { Light } from './render-light.ts';

export interface TakeOptions extends Exposure {
  width: number;
  height: number;
  compression: DngOptions['compression'];
  layout: DngOptions['layout'];
  time?: string;
  focalMm?: number;
  aperture?: number;
  /** faults of the lens, said as what undoes them; whether the file says so too */
  lens?: FileLens;
  silent?: boolean;
  /** specks on the sensor */
  dust?: readonly Mote[];
  /** stains and wires upon what is seen */
  marks?: readonly Mark[];
  wires?: readonly Wire[];
}

/** What a camera set by hand writes of such a light (Exif 2.32, LightSource). */
const lightSourceOf = (kelvin: number): number => (kelvin < 3500 ? 3 : kelvin < 6000 ? 9 : kelvin < 7000 ? 10 : 11);

/** Takes one picture of rendered light; returns the DNG file and what was true. */
export async function take(light: Light, o: TakeOptions): Promise<{ file: Uint8Array; truth: object; camera: Float32Array }> {
  const { camera: seen, meteredEv } = cameraLight(light, o.width, o.height),
    there = o.marks || o.wires ? blemished(seen, o.width, o.height, o) : seen,
    through = o.lens ? throughGlass(there, o.width, o.height, o.lens) : there,
    shot = expose(o.dust ? underDust(through, o.width, o.height, o.dust) : through, o.width, o.height, o);
  const baselineExposureEv = 0.7;
  const file = writeDng(shot, o, {
    compression: o.compression,
    layout: o.layout,
    preview: await previewOf(shot, o.ev),
    baselineExposureEv,
    exif: {
      iso: o.iso,
      shutterSeconds: (1 / 125) * 2 ** o.ev,
      aperture: o.aperture ?? 4,
      focalMm: o.focalMm ?? 40,
      time: o.time ?? '2026:10:12 09:30:00',
      lightSource: lightSourceOf(light.kelvin),
    },
    ...(o.lens && !o.silent ? { lens: o.lens } : {}),
  });
  return {
    file,
    camera: shot.camera,
    // between frames of one light the meter differs as well as what was dialled: only both together say how the light was exposed
    truth: {
      ev: Number((meteredEv + o.ev).toFixed(3)),
      dialledEv: o.ev,
      kelvin: light.kelvin,
      believedKelvin: o.believedKelvin,
      iso: o.iso,
      chart: light.chart,
      ...(o.dust ? { dust: o.dust } : {}),
      ...(o.marks ? { marks: o.marks } : {}),
      ...(o.wires ? { wires: o.wires } : {}),
    },
  };
}
