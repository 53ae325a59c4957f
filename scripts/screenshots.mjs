// Makes docs/screenshots from the demo data: one current picture of each main view, at 1280 × 800.
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildServer, buildWeb } from './build.mjs';
import { demoStage } from './demo-stage.mjs';

await buildServer();
await buildWeb();
const folder = 'docs/screenshots';
mkdirSync(folder, { recursive: true });
const { origin, page, close } = await demoStage({ width: 1280, height: 800 });
const pictures = () =>
  page.waitForFunction(
    () => document.querySelectorAll('.picture').length > 0 && document.querySelectorAll('.picture:not(.ready)').length === 0,
  );
const shot = async (name) => {
  await page.waitForTimeout(700);
  await page.screenshot({ path: join(folder, `${name}.png`) });
};
const lead = () =>
  page.waitForFunction(() => {
    const c = document.querySelector('canvas[data-testid=lead]');
    return c?.dataset.ready && c.dataset.ready === c.dataset.piece;
  });

await page.goto(`${origin}/shoots`);
await pictures();
await shot('shoots');
await page.getByRole('link', { name: /Tansy Row/ }).click();
await pictures();
await page.waitForTimeout(2500);
await pictures();
await shot('shoot');
await page.goto(`${origin}/shoots/1/evenness`);
await page.getByRole('button', { name: /^Take [1-9]/ }).waitFor({ timeout: 120_000 });
await page.getByText('comparing').waitFor({ state: 'detached', timeout: 120_000 });
for (let i = 0; i < 6; i++) await page.keyboard.press('n');
await pictures();
await shot('evenness');
const looks = await (await page.request.get(`${origin}/api/looks`)).json(),
  look = (name) => looks.find((l) => l.name === name).id;
const { frames } = await (await page.request.get(`${origin}/api/shoots/1`)).json(),
  ground = async (name, part) => {
    await page.goto(`${origin}/ground?shoot=1&frame=${frames.find((f) => f.name === name).id}`);
    await page.getByRole('tab', { name: part }).click();
    await lead();
  };
const typed = async (control, value) => {
  await page.getByRole('slider', { name: control, exact: true }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type(String(value));
  await page.keyboard.press('Enter');
};
await ground('TR-0451', /^Zones/);
for (const [zone, key, times] of [
  ['Dark zone', 'ArrowUp', 12],
  ['Bright zone', 'ArrowDown', 10],
]) {
  await page.getByRole('slider', { name: zone }).focus();
  for (let i = 0; i < times; i++) await page.keyboard.press(key);
}
await page.getByRole('tab', { name: 'Parade' }).click();
await page.waitForTimeout(1800);
await shot('ground-zones');
await ground('TR-0452', /^Crop and angle/);
await page.getByLabel('Ratio').selectOption('4:5');
await typed('Straighten', 1.5);
await page.getByRole('tab', { name: 'Histogram' }).click();
await page.waitForTimeout(1800);
await shot('ground-crop');
await ground('TR-0490', /^Repair/);
await lead();
await page.locator('.repair-overlay').waitFor();
const front = await page.getByTestId('lead').boundingBox(),
  crack = (x, y) => page.mouse.move(front.x + front.width * x, front.y + front.height * y, { steps: 4 });
await crack(0.69, 0.655);
await page.mouse.down();
await crack(0.7, 0.668);
await crack(0.709, 0.684);
await page.mouse.up();
await page.getByRole('region', { name: 'The chosen repair' }).waitFor();
await page.waitForTimeout(2500);
await shot('ground-repair');
await page.goto(`${origin}/bench?shoot=1&look=${look('Walnut matte')}`);
await lead();
await page.getByRole('button', { name: /^Grade/ }).click();
await page.keyboard.press('w');
await shot('bench-grade');
await page.keyboard.press('w');
await page.goto(`${origin}/bench?shoot=1&look=${look('Verdigris crossed')}`);
await lead();
await page.getByRole('button', { name: /^Tone curve/ }).click();
await page.locator('.witness-picture').first().click();
await lead();
await shot('bench-curve');
await page.goto(`${origin}/bench?shoot=1&look=${look('Walnut matte')}`);
await lead();
await page.getByRole('button', { name: /^Neutral response/ }).click();
await page.keyboard.press('2');
await page.waitForTimeout(1200);
await shot('bench-100-percent');
await page.keyboard.press('1');
const add = async (lane, words) => {
  await page.getByRole('button', { name: `Add a step to the ${lane} lane` }).click();
  await page.getByLabel('What should it do?').fill(words);
  await page.keyboard.press('Enter');
  await page.waitForTimeout(700);
};
await page.goto(`${origin}/bench?shoot=1&look=${look('Walnut matte')}&frame=${frames.find((f) => f.name === 'TR-0452').id}`);
await lead();
await add('print', 'yellow to orange');
const band = await page.getByRole('group', { name: 'Hue to hue' }).boundingBox();
await page.mouse.click(band.x + band.width * 0.26, band.y + band.height * 0.66);
await page.getByRole('tab', { name: 'Lightness' }).click();
await page.mouse.click(band.x + band.width * 0.72, band.y + band.height * 0.6);
await page.waitForTimeout(1500);
await shot('bench-hues');
await page.goto(`${origin}/bench?shoot=1&look=new&frame=${frames.find((f) => f.name === 'TR-0451').id}`);
await lead();
await add('scene', 'exposure');
await typed('Shift', -1.1);
await page.getByLabel('Where it acts').selectOption('sky');
await page.getByRole('button', { name: '∩ only inside' }).click();
await page.getByRole('menuitem', { name: 'along a gradient' }).click();
await page.getByRole('radio', { name: 'tint' }).click();
await page.getByText(/sure \d/).waitFor();
await page.waitForTimeout(4000);
await shot('bench-where');
await page.goto(`${origin}/bench?shoot=1&look=${look('Walnut matte')}&frame=${frames.find((f) => f.name === 'TR-0452').id}`);
await lead();
for (const [lane, words] of [
  ['scene', 'contrast'],
  ['scene', 'relief'],
  ['print', 'livelier'],
  ['print', 'cdl'],
])
  await add(lane, words);
await add('print', 'recolour');
await page.getByRole('button', { name: 'Pick a colour' }).click();
await page.waitForTimeout(900);
const cloth = await page.getByTestId('lead').boundingBox();
await page.mouse.click(cloth.x + cloth.width * 0.44, cloth.y + cloth.height * 0.5);
await typed('Hue', -22);
await page.waitForTimeout(1500);
await page.getByRole('button', { name: 'Bake…' }).click();
await page
  .getByTestId('bake-report')
  .getByText(/CIEDE2000/)
  .waitFor();
await shot('bench-bake');
await page.keyboard.press('Escape');
const work = mkdtempSync(join(tmpdir(), 'dyepot-table-')),
  cube = join(work, 'Weld gold.cube');
spawnSync(process.execPath, ['dist/dyepot.mjs', 'bake', 'demo/looks/weld-gold.json', '--out', cube]);
await add('print', 'lut');
await page.getByLabel('File of the table').setInputFiles(cube);
await page.getByRole('button', { name: 'Inspect' }).click();
await shot('table-inspector');
await page.keyboard.press('Escape');
await page.goto(`${origin}/bench?shoot=1&look=new&frame=${frames.find((f) => f.name === 'TR-0481').id}`);
await lead();
await page.getByRole('button', { name: /^Neutral response/ }).click();
await page.getByRole('radio', { name: 'Film stock' }).click();
await page.getByRole('button', { name: 'Woad', exact: true }).click();
await add('print', 'vignette');
await typed('At the edges', -1.1);
await add('print', 'low sun');
await typed('Light', 70);
await page.waitForTimeout(1800);
await shot('bench-finish');
await page.goto(`${origin}/stock?name=Weld`);
await page.waitForTimeout(3000);
await page.getByLabel('Lay another over').selectOption('Cutch');
await page.waitForTimeout(2500);
await shot('stock');
await page.goto(
  `${origin}/shoots/1/compare?side=4&frames=${['TR-0412', 'TR-0415', 'TR-0437', 'TR-0468'].map((n) => frames.find((f) => f.name === n).id).join()}`,
);
await page.locator('.side canvas[data-ready]').nth(3).waitFor();
await page.keyboard.press('ArrowRight');
await typed('Exposure', 0.35);
await typed('Warmth', -14);
await page.waitForTimeout(3000);
await shot('compare');
await page.goto(`${origin}/shelf`);
await pictures();
await shot('shelf');
await page.goto(`${origin}/shoots/1`);
await page.getByRole('button', { name: /^Deliver \d+/ }).click();
await shot('deliver');
await page.getByRole('button', { name: 'Deliver', exact: true }).click();
await page.getByRole('link', { name: 'Download zip' }).waitFor();
await shot('deliveries');
await close();
process.exit(0);
