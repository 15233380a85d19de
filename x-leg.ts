import { combinations, nameOf } from './tools/legality/combinations';
import { ForeignDecoders } from './tools/legality/foreign';
import { judged } from './tools/legality/judge';
const d=await ForeignDecoders.open(); let n=0,bad=0; const t=Date.now(); const per:Record<string,number>={};
for(const c of combinations(process.env.FEW==='1')){ if(process.env.W&&c.writer.id!==process.env.W)continue; n++; const t0=Date.now(); const secs=Number(process.env.SECS??0.5); const j=await judged(c, Math.round(c.rateHz*secs)+37, d).catch(e=>({faults:[String(e)],bytes:0,errorDb:null})); per[c.writer.id]=(per[c.writer.id]??0)+Date.now()-t0; if(j.faults.length){bad++;console.log('BAD',nameOf(c),j.faults.slice(0,3).join('; '))} if(process.env.V)console.log(nameOf(c),j.bytes,(j.bytes*8/1000/secs).toFixed(1)+' kbit/s',j.errorDb?.toFixed(1)); }
console.log(n,'bad',bad,(Date.now()-t)/1000,'s',per); await d.close(); process.exit(0);
