import './filmEngine.ts';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { openDatabase } from './db/database.ts';
import { Frame, LookRecord, Shoot } from './db/models.ts';
import { root } from './places.ts';
import { startJobs } from './jobs/jobs.ts';
import { lockDataFolder } from './services/lock.ts';
import { applyLook, createShoot, updateShoot } from './services/shoots.ts';
import { createLook } from './services/looks.ts';
import { openPool } from './work/pool.ts';

const shootName = 'Tansy Row, autumn catalogue';
const lightNames: Record<string, string> = {
  window: 'North window',
  vat: 'Vat room, tungsten',
  dusk: 'Dusk line',
  moor: 'Foggy moor',
  shore: 'The shore',
  front: 'House front',
};

/** Puts the demo looks on the shelf and brings the demo shoot in, where they are not there yet. */
async function seed(): Promise<void> {
  const lock = await lockDataFolder(),
    database = await openDatabase(),
    pool = openPool(),
    jobs = startJobs(pool);
  const folder = join(root, 'packages/camera/frames'),
    // tests bring looks of their own
    lookFolder = process.env['DYEPOT_LOOKS'] ?? join(root, 'demo/looks');
  if ((await LookRecord.count()) === 0)
    for (const file of readdirSync(lookFolder).sort()) await createLook(JSON.parse(readFileSync(join(lookFolder, file), 'utf8')));
  if (!(await Shoot.findOne({ where: { name: shootName } }))) {
    const shoot = await createShoot(shootName);
    let job = await jobs.importFolder(shoot.id, folder, { deep: false, finished: false });
    while (job.state === 'waiting' || job.state === 'running') {
      await new Promise((r) => setTimeout(r, 150));
      job = await jobs.view(job.id);
      process.stderr.write(`\rdemo frames: ${job.done} of ${job.total} `);
    }
    process.stderr.write('\n');
    if (job.failures[0]) throw new Error(job.failures[0].message);
    for (const frame of await Frame.findAll({ where: { shootId: shoot.id } })) {
      const truth = JSON.parse(readFileSync(frame.path.replace(/\.dng$/, '.truth.json'), 'utf8')) as { light: string; lead?: boolean };
      await frame.update({ light: lightNames[truth.light] ?? frame.light });
      if (truth.lead) await updateShoot(shoot.id, { leadFrameId: frame.id });
    }
    const worn = await LookRecord.findOne({ where: { name: ['Weld gold', 'Weld morning'] } });
    if (worn) await applyLook(shoot.id, worn.id, 1);
  }
  await jobs.close();
  await pool.close();
  await database.close();
  await lock.release();
}

await seed();
