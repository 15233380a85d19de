import { hostById } from '../host';
import { either } from '../tradeNames';
import { plural } from '../words';
import type { Freedom } from './accepted';
import type { Layout } from './layout';
import type { Brief } from './schema';

interface Said {
  demand: string;
  label: string;
  freedom: Freedom;
  text: string;
}

/** What a layout demands, in words, and where its packs are rehearsed; nothing for a brief with neither. */
export function layoutDemands({ layout, host }: Brief): Said[] {
  const stage = host === undefined ? [] : [said('host', 'Rehearsed in', hostById(host).title)];
  if (!layout) return stage;
  const { inFolder, texts = [], fields = [], icon } = layout;
  const sizes = icon?.sizes.map((size) => `${size} × ${size}`) ?? [];
  return [
    said('root', 'Root of the pack', inFolder ? `the folder ${inFolder}` : 'the files themselves'),
    said('slots', 'Slots', slotsText(layout)),
    said('texts', 'Beside the sounds', texts.map(({ path }) => path).join(', ')),
    said('icon', 'Icon', icon ? `${icon.path}, PNG, ${either(sizes)}` : ''),
    said('fields', 'Asked of you', fields.map(({ title }) => title).join(', ')),
    ...stage,
  ].filter(({ text }) => text !== '');
}

function said(demand: string, label: string, text: string): Said {
  return { demand, label, freedom: 'fixed', text };
}

function slotsText({ slots = [], others }: Layout): string {
  if (slots.length === 0) return '';
  const needed = slots.filter(({ isOptional }) => !isOptional).length;
  const alone = others === 'refuse' ? '; nothing else is taken' : '';
  return `${plural(slots.length, 'slot')}, of which ${needed} must be filled${alone}`;
}
