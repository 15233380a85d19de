import { writeSound } from '@/core/formats/write';
import { MemorySink, memorySource } from '@/core/bytes/source';
import { openSound } from '@/core/formats/open';
import { collectChannels } from '@/core/pcm/pcm';
import { sourceFromChannels, streamOf } from '@/core/pcm/source';
import { readFileSync } from 'node:fs';
import { execSync } from 'node:child_process';
const [writer, settings, count, all] = [process.argv[2]!, JSON.parse(process.argv[3]!), Number(process.argv[4]), process.argv[5]==='all'];
const files = execSync('find /usr/share/games/hedgewars -name "*.ogg" -size -60k | sort').toString().trim().split('\n').filter((_,i,a)=>i%Math.ceil(a.length/count)===0);
const enc = async (x: Float32Array[], rate: number) => { const s = new MemorySink(); await writeSound(streamOf(sourceFromChannels(x, rate)), writer, settings, s); return collectChannels((await openSound(memorySource(s.bytes()))).pcm()); };
let bad = 0; let worst = -99; let total=0; let sumErr=0;
for (const f of files) {
  const r = await openSound(memorySource(readFileSync(f)));
  const x = await collectChannels(r.pcm());
  const n = x[0]!.length; const rate = r.header.sampleRateHz;
  if (n > rate*10 || n < 2000) continue;
  const LEAD = 8192 + Number(process.env.OFF ?? 0);
  let y: Float32Array[], z: Float32Array[];
  try {
  y = await enc(x, rate);
  z = (await enc(x.map(c=>{const o=new Float32Array(n+LEAD); o.set(c,LEAD); return o;}), rate)).map(c=>c.subarray(LEAD));
  } catch (e) { console.log(f, String(e).slice(0,80)); continue; }
  total++;
  let hit = 0;
  const to = all ? n : Math.min(n, 2048);
  for (let c=0;c<x.length;c++) for (let a=0;a+128<=to;a+=128) {
    let s=0,e=0,g=0,k=0;
    for (let i=Math.max(0,a-512);i<Math.min(n,a+640);i++){s+=x[c]![i]!**2;k++}
    for (let i=a;i<a+128;i++){e+=(y[c]![i]!-x[c]![i]!)**2; g+=(z[c]![i]!-x[c]![i]!)**2}
    s/=k; e/=128; g/=128;
    if (s<1e-7) continue;
    const q=10*Math.log10(e/s), d=10*Math.log10((e+1e-12)/(g+1e-12));
    sumErr += Math.max(-60,q);
    if (q>-20 && d>8) {hit++; worst=Math.max(worst,q); if (all) console.log(f.split('/').pop(), c, a, q.toFixed(1), d.toFixed(1)); }
  }
  if (hit) bad++;
}
console.log(writer, process.argv[3], 'sounds', total, 'with findings', bad, 'worst', worst.toFixed(1), sumErr.toFixed(0));
process.exit(0);
