export default async (p) => {
  const add = async (lane, words) => { await p.getByRole('button',{name:`Add a step to the ${lane} lane`}).click(); await p.getByLabel('What should it do?').fill(words); await p.keyboard.press('Enter'); await p.waitForTimeout(800); };
  await add('scene','exposure');
  await p.getByLabel('Where it acts').selectOption('sky'); await p.waitForTimeout(600);
  const s = p.getByRole('slider',{name:'Shift',exact:true}); await s.focus(); for(let i=0;i<14;i++) await p.keyboard.press('ArrowLeft');
  await p.getByRole('radio',{name:'grey'}).click(); await p.waitForTimeout(6000);
  console.log(await p.evaluate(() => [...document.querySelectorAll('canvas')].map(c => [c.dataset.testid, c.width, c.height, c.hidden, JSON.stringify(c.dataset), c.getAttribute('aria-busy')].join(' ')).join('\n')));
  console.log(await p.evaluate(()=>document.querySelector('.stage-message')?.textContent));
  await p.screenshot({path:'.tmp/c.png'});
};
