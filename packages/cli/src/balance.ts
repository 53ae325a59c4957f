import { autoBalance, pickNeutral, type Picked } from '@dyepot/core/src/groundwork/balance.ts';
import { halvePlate, makePlate } from '@dyepot/core/src/plate/plate.ts';
import { decodeRaw } from '@dyepot/server/src/decode/decode.ts';
import { kernels } from '@dyepot/server/src/work/ownKernels.ts';
import { parse, whole } from './options.ts';

/** `dyepot balance`: kelvin, tint and multipliers that make a spot, or the picture, neutral. */
export async function balance(args: string[]): Promise<number> {
  const { values, flags, positionals } = parse(args, ['at', 'size']);
  if (positionals.length !== 1) throw new Error('balance takes one file');
  const place = values['at']?.split(',').map(Number),
    size = whole(values['size'] ?? '24', 'size', 1, 1000);
  if (place && !(place.length === 2 && place.every((v) => v >= 0 && v <= 1)))
    throw new Error('--at takes two fractions of the picture from 0 to 1, such as 0.5,0.4');
  const { facts, raw } = await decodeRaw(positionals[0]!),
    own = await kernels();
  let plate = makePlate(own, raw, facts);
  if (!place) for (let i = 0; i < 3; i++) plate = halvePlate(own, plate);
  const found = place ? pickNeutral(plate, facts.profile, { x: place[0]!, y: place[1]! }, size) : autoBalance(plate, facts.profile);
  if (!found) throw new Error('nothing in this picture looks grey under any usual light');
  if ('message' in found) throw new Error(found.message);
  const multipliers = place ? (found as Picked).multipliers : null;
  if (flags['json'])
    process.stdout.write(
      `${JSON.stringify({ file: positionals[0], kelvin: Math.round(found.kelvin), tintDuv: Number(found.tintDuv.toFixed(5)), ...(multipliers ? { multipliers: multipliers.map((v) => Number(v.toFixed(4))) } : {}) }, null, 2)}\n`,
    );
  else
    process.stdout.write(
      `${Math.round(found.kelvin)} K, tint ${found.tintDuv.toFixed(4)}${multipliers ? `, multipliers ${multipliers.map((v) => v.toFixed(4)).join(' ')}` : ''}\n`,
    );
  return 0;
}
