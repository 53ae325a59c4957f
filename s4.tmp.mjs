import {readFileSync} from 'node:fs';
export default async (p) => { const names=await p.evaluate(()=>performance.getEntriesByType('resource').map(r=>new URL(r.name).pathname).filter(p=>/^\/assets\/.*\.js$/.test(p))); let t=0; for(const n of new Set(names)){const b=readFileSync('dist/web'+n+'.gz').length;t+=b;console.log(b,n);} console.log(t); };
