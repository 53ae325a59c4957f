// Takes a picture with the simulated camera: npm run camera -- --scene window-0 --size 6000x4000 --ev 0.7 --out FILE.dng
import { buildServer } from './build.mjs';
import { spawnSync } from 'node:child_process';
await buildServer();
process.exit(
  spawnSync(process.execPath, ['--max-old-space-size=8000', 'dist/camera.mjs', ...process.argv.slice(2)], { stdio: 'inherit' }).status ?? 1,
);
