import { Setting } from '../db/models.ts';
import type { FileSettings } from '../work/encodeFile.ts';

/** How files are delivered, under a name: what an order asks for but its frames. */
export interface DeliveryPreset {
  name: string;
  /** empty: Dyepot's own */
  folder: string;
  pattern: string;
  file: FileSettings;
}
const name = 'delivery-presets';

export async function deliveryPresets(): Promise<DeliveryPreset[]> {
  const kept = (await Setting.findByPk(name))?.value;
  return Array.isArray(kept) ? (kept as DeliveryPreset[]) : [];
}
/** Keeps presets in place of those there were. */
export async function keepDeliveryPresets(presets: DeliveryPreset[]): Promise<{ presets: DeliveryPreset[] }> {
  await Setting.upsert({ name, value: presets });
  return { presets };
}
