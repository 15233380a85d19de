import { writeSound } from '@/core/formats/write';
import { MemorySink, memorySource } from '@/core/bytes/source';
import { openSound } from '@/core/formats/open';
import { collectChannels } from '@/core/pcm/pcm';
import { sourceFromChannels, streamOf } from '@/core/pcm/source';
import { writeFileSync } from 'node:fs';
for (const [kbps, hz, lead] of [[64,110,0],[64,110,1024],[64,110,2048],[128,110,0],[128,110,1024],[128,1000,1024],[64,1000,1024],[96,1000,2048]] as const) {
  const rate=44100, n = Math.round(rate*1.5);
  const periods = Math.round(hz*n/rate);
  const x = Float32Array.from({length:n},(_, i)=>i<lead?0:0.38*Math.cos(2*Math.PI*periods*i/n));
  const sink = new MemorySink();
  await writeSound(streamOf(sourceFromChannels([x], rate)), 'm4a', {kbps}, sink);
  writeFileSync(`/tmp/exp/a_${kbps}_${hz}_${lead}.m4a`, sink.bytes());
  writeFileSync(`/tmp/exp/a_${kbps}_${hz}_${lead}.f32`, new Uint8Array(x.buffer));
  const [y] = await collectChannels((await openSound(memorySource(sink.bytes()))).pcm());
  const e=[];for(let b=0;b*1024<n;b++){let m=0;for(let i=b*1024;i<Math.min(n,b*1024+1024);i++)m=Math.max(m,Math.abs(y![i]!-x[i]!));e.push((20*Math.log10(m+1e-9)).toFixed(0))}
  console.log(kbps,hz,lead,sink.bytes().length,e.join(' '));
}
process.exit(0)
