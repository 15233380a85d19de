import { builtinBriefs, builtinTexts } from '@/core/brief/builtin';
import { briefById } from '@/core/brief/catalogue';
import { demandsOf } from '@/core/brief/demands';
import type { Brief } from '@/core/brief/schema';
import { briefFile } from '@/core/brief/exchange';
import { print } from '../output';
import { STATUS } from '../status';

/** Says what the briefs demand that come with Bijou. */
export async function runBriefs(id: string | undefined, isJson: boolean): Promise<number> {
  const briefs = id === undefined ? builtinBriefs : [briefById(builtinBriefs, id)];
  if (isJson) {
    await print(JSON.stringify(briefs.map(briefJson), null, 2));
    return STATUS.done;
  }
  for (const brief of briefs) {
    await print(`${brief.id}  ${brief.title}, version ${brief.version}`);
    if (id === undefined) {
      await print(`  ${brief.purpose}`);
      continue;
    }
    await print(`  ${brief.purpose}\n\n${brief.about ?? ''}\n`);
    for (const { fileId, label, text, freedom } of demandsOf(brief)) {
      const of = brief.files.length > 1 && fileId !== null ? `${fileId}: ` : '';
      await print(`  ${`${of}${label}`.padEnd(24)}${freedom.padEnd(7)}${text}`);
    }
    for (const note of brief.notes) await print(`\n${note}`);
  }
  return STATUS.done;
}

/** A brief as its file holds it, and what it demands in words. */
function briefJson(brief: Brief) {
  const text = builtinTexts.find(({ id }) => id === brief.id)!;
  return { ...briefFile(text), demands: demandsOf(brief) };
}
