export default async (p) => {
  const add = async (lane, words) => { await p.getByRole('button',{name:`Add a step to the ${lane} lane`}).click(); await p.getByLabel('What should it do?').fill(words); await p.keyboard.press('Enter'); await p.waitForTimeout(800); };
  await p.getByRole('tab',{name:/This frame/}).click(); await p.waitForTimeout(400); await p.screenshot({path:'.tmp/a.png'});
  await add('scene','exposure');
  await p.getByLabel('Where it acts').selectOption('brush'); await p.waitForTimeout(700);
  const s = p.getByRole('slider',{name:'Shift',exact:true}); await s.focus(); for(let i=0;i<20;i++) await p.keyboard.press('ArrowRight');
  const b = await p.getByTestId('brush').boundingBox();
  await p.mouse.move(b.x+250,b.y+450); await p.mouse.down(); for(let i=0;i<30;i++) await p.mouse.move(b.x+250+i*12,b.y+450+40*Math.sin(i/4)); await p.mouse.up();
  await p.waitForTimeout(2500); await p.screenshot({path:'.tmp/b.png'});
  await add('print','saturation');
  await p.locator('[data-step] .chip-more').nth(0).click({force:true}).catch(()=>{});
  await p.keyboard.press('Escape');
  await p.getByRole('tab',{name:/^Look/}).click(); await p.waitForTimeout(1500);
  console.log(await p.evaluate(()=>document.documentElement.dataset.saving));
  await p.reload(); await p.waitForTimeout(4000); await p.getByRole('tab',{name:/This frame/}).click(); await p.waitForTimeout(1500); await p.screenshot({path:'.tmp/c.png'});
};
