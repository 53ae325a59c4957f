import { writeFileSync } from 'node:fs';
import { it } from 'vitest';
import { complaintsOf, walk } from '/work/main/e2e/accessWalk.ts';
import { setStage } from '/work/main/e2e/stage.ts';
it('w', async () => {
  const stage = await setStage();
  const found: Record<string, string[]> = {};
  const [w, h] = (process.env.SIZE ?? '1280x800').split('x').map(Number);
  await walk(stage, { width: w!, height: h! }, async (page, name, t) => {
    const c = [...(t ? [t] : []), ...(await complaintsOf(page))];
    if (c.length) found[name] = c;
  });
  writeFileSync('/tmp/axe.json', JSON.stringify(found, null, 1));
  await stage.close();
}, 900000);
