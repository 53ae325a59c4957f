import { together } from '../db/database.ts';
import { Setting } from '../db/models.ts';
import type { FileSettings } from '../work/encodeFile.ts';
import { ServiceError } from './errors.ts';
import { tellNews } from './news.ts';

/** How files are delivered, under a name: what an order asks for but its frames. */
export interface DeliveryPreset {
  name: string;
  /** empty: Dyepot's own */
  folder: string;
  pattern: string;
  file: FileSettings;
}
const name = 'delivery-presets',
  most = 100;

export async function deliveryPresets(): Promise<DeliveryPreset[]> {
  const kept = (await Setting.findByPk(name))?.value;
  return Array.isArray(kept) ? (kept as DeliveryPreset[]) : [];
}
/** Changes the list as it stands now, so that two windows do not write over each other. */
async function change(to: (presets: DeliveryPreset[]) => DeliveryPreset[]): Promise<void> {
  await together(async (transaction) => {
    const kept = (await Setting.findByPk(name, { transaction }))?.value,
      value = to(Array.isArray(kept) ? (kept as DeliveryPreset[]) : []);
    if (value.length > most) throw new ServiceError(409, `${most} presets are kept already`);
    await Setting.upsert({ name, value }, { transaction });
  });
  tellNews({ kind: 'presets' });
}
/** Keeps a preset, in place of one of its name. */
export const keepDeliveryPreset = (preset: DeliveryPreset): Promise<void> =>
  change((presets) => [...presets.filter((p) => p.name !== preset.name), preset].sort((a, b) => a.name.localeCompare(b.name)));
/** Takes a preset out. */
export const dropDeliveryPreset = (gone: string): Promise<void> => change((presets) => presets.filter((p) => p.name !== gone));
