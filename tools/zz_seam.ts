import { writeSound } from '@/core/formats/write';
import { MemorySink, memorySource } from '@/core/bytes/source';
import { openSound } from '@/core/formats/open';
import { collectChannels } from '@/core/pcm/pcm';
import { sourceFromChannels, streamOf } from '@/core/pcm/source';
import { noMarks } from '@/core/marks';
const forms: [string, object, number][] = [
  ['ogg', { quality: 5 }, 44100], ['ogg', { quality: 0 }, 44100],['ogg', { quality: 5 }, 11025],
  ['ogg-opus', { kbps: 96 }, 48000], ['webm', { kbps: 96 }, 48000],
  ['m4a', { kbps: 128 }, 44100], ['m4a', { kbps: 64 }, 44100], ['mp3', { kbps: 128 }, 44100], ['mp3', { kbps: 192 }, 44100],
  ['wav-ima-adpcm', {}, 44100],
];
const ids = (await import('@/core/formats/index')).writers.map(w=>w.id);
console.log(ids.join(' '));
for (const [id, settings, rate] of forms) {
  for (const hz of [110, 1000]) {
  const n = Math.round(rate*1.5);
  const periods = Math.round(hz*n/rate);
  const x = Float32Array.from({length:n},(_, i)=>0.38*Math.cos(2*Math.PI*periods*i/n));
  const sink = new MemorySink();
  try {
  const around={before:[x.slice(-4096)],behind:[x.slice(0,4096)]}; const pcm = {...streamOf(sourceFromChannels([x], rate)), around};
  await writeSound(pcm, id, settings, sink, { ...noMarks, loop: {startFrame:0,endFrame:n} } as never);
  } catch(e) { console.log(id, String(e)); continue; }
  const r = await openSound(memorySource(sink.bytes()));
  const [y] = await collectChannels(r.pcm());
  const err = (a:number,b:number)=>{let m=0;for(let i=a;i<b;i++)m=Math.max(m,Math.abs(y![i]!-x[i]!));return (20*Math.log10(m+1e-9)).toFixed(1)};
  console.log(id, JSON.stringify(settings), rate, hz, 'len', y!.length-n, 'start', err(0,64), err(64,512),err(512,2048),'mid',err(n/4|0,n*3/4|0),'end',err(n-2048,n-512),err(n-512,n-64),err(n-64,n), 'seam', (20*Math.log10(Math.abs((y![0]!-x[0]!)-(y![n-1]!-x[n-1]!))+1e-9)).toFixed(1));
  }
}
