export default async (p) => {
  const add = async (lane, words) => { await p.getByRole('button',{name:`Add a step to the ${lane} lane`}).click(); await p.getByLabel('What should it do?').fill(words); await p.keyboard.press('Enter'); await p.waitForTimeout(800); };
  await add('scene','exposure');
  await p.getByLabel('Where it acts').selectOption('sky'); await p.waitForTimeout(600);
  const s = p.getByRole('slider',{name:'Shift',exact:true}); await s.focus(); for(let i=0;i<14;i++) await p.keyboard.press('ArrowLeft');
  await p.waitForTimeout(1200); await p.screenshot({path:'.tmp/a.png'});
  await p.getByRole('button',{name:'∩ only inside'}).click(); await p.waitForTimeout(500); await p.getByRole('menuitem',{name:'along a gradient'}).click(); await p.waitForTimeout(600);
  await p.getByRole('radio',{name:'tint'}).click(); await p.waitForTimeout(1500); await p.screenshot({path:'.tmp/b.png'});
};
