import { enter, openBrowser, openPage } from './browser';
const b=await openBrowser(); const p=await openPage(b); const base='http://127.0.0.1:4391';
await enter(p, base+'/enter?key=k'); const cookie=(await p.cookies()).map(c=>c.name+'='+c.value).join('; ');
const units=await p.evaluate(()=>fetch('/api/v1/units').then(r=>r.json())); await b.close();
const id=units.units.find((u:any)=>u.state.name==='Plover').id;
const time=async (path:string)=>{ const t:number[]=[]; for(let i=0;i<60;i++){ const a=performance.now(); const r=await fetch(base+path,{headers:{cookie}}); const x=await r.text(); t.push(performance.now()-a); if(i===59) console.log(path, r.status, x.length, 'bytes, median', t.sort((a,b)=>a-b)[30]!.toFixed(1)); } };
await time('/'); await time('/units/'+id); await time('/api/v1/find?q=QH8'); await time('/settings'); await time('/upkeep'); await time('/sign-in');
