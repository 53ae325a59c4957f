import { chromium } from 'playwright-core';
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--disable-gpu','--disable-quic','--no-first-run','--disable-background-networking','--disable-component-update','--disable-sync'] });
const p = await b.newPage({ viewport: { width: 1280, height: 800 } });
p.on('console', m => m.type()==='error' && console.log('console', m.text().slice(0,300))); p.on('pageerror', e => console.log('pageerror', e.message.slice(0,400)));
await p.goto('http://localhost:4811/bench?shoot=1&look=6'); await p.waitForSelector('[data-testid=lead][data-ready]', {timeout:60000});
await p.waitForTimeout(300);
const run = (await import(process.argv[2])).default; await run(p);
await b.close();
