import { viewOf } from '../bits';
import { damagedHeader } from '../problems';

/** Bodies of the boxes that say where a track's packets lie (ISO/IEC 14496-12, 8.6 and 8.7). */
export type TableBox = 'stts' | 'stsc' | 'stsz' | 'stco' | 'co64';
export type Tables = Partial<Record<TableBox, Uint8Array>>;

export const tableBoxes: readonly TableBox[] = ['stts', 'stsc', 'stsz', 'stco', 'co64'];

const entryBytes = { stts: 8, stsc: 12, stco: 4, co64: 8 };

/**
 * Refuses tables that contradict each other or claim more than they hold: whoever follows them would
 * search for packets without end.
 * @throws damaged-header
 */
export function checkTables(tables: Tables, fileBytes: number): void {
  const chunks = count(tables, 'stco') ?? count(tables, 'co64');
  const packets = packetCount(tables.stsz, fileBytes);
  const runs = count(tables, 'stsc');
  count(tables, 'stts');
  // Files that keep their packets in fragments have empty tables.
  if (!packets) return;
  if (!chunks || !runs || !tables.stsc) throw contradiction();
  const view = viewOf(tables.stsc);
  let before = 0;
  let placed = 0;
  for (let i = 0; i < runs; i++) {
    const firstChunk = view.getUint32(8 + i * 12);
    const perChunk = view.getUint32(12 + i * 12);
    const next = i + 1 < runs ? view.getUint32(8 + (i + 1) * 12) : chunks + 1;
    const isInOrder = i === 0 ? firstChunk === 1 : firstChunk > before;
    if (
      !isInOrder ||
      firstChunk > chunks ||
      perChunk === 0 ||
      perChunk > packets ||
      next < firstChunk
    )
      throw contradiction();
    placed += (next - firstChunk) * perChunk;
    before = firstChunk;
  }
  if (placed < packets || timedPackets(tables.stts) < packets) throw contradiction();
}

/** Entries of a table that are really there. */
function count(tables: Tables, box: keyof typeof entryBytes): number | null {
  const body = tables[box];
  if (!body) return null;
  if (body.length < 8) throw contradiction();
  const entries = viewOf(body).getUint32(4);
  if (entries * entryBytes[box] > body.length - 8) throw contradiction();
  return entries;
}

function packetCount(body: Uint8Array | undefined, fileBytes: number): number {
  if (!body) return 0;
  if (body.length < 12) throw contradiction();
  const view = viewOf(body);
  const commonBytes = view.getUint32(4);
  const packets = view.getUint32(8);
  // Packets of one size need no table, but they must all lie in the file.
  const most = commonBytes === 0 ? (body.length - 12) / 4 : fileBytes / commonBytes;
  if (packets > most) throw contradiction();
  return packets;
}

/** Length of the media in units of its time scale; 0 where there are no packets. */
export function mediaUnits({ stts, stsz }: Tables): number {
  if (!stts || !stsz || stsz.length < 12) return 0;
  const view = viewOf(stts);
  let left = viewOf(stsz).getUint32(8);
  let units = 0;
  for (let i = 0; i < view.getUint32(4) && left > 0; i++) {
    const packets = Math.min(left, view.getUint32(8 + i * 8));
    units += packets * view.getUint32(12 + i * 8);
    left -= packets;
  }
  return units;
}

function timedPackets(body: Uint8Array | undefined): number {
  if (!body) return 0;
  const view = viewOf(body);
  let packets = 0;
  for (let i = 0; i < view.getUint32(4); i++) packets += view.getUint32(8 + i * 8);
  return packets;
}

function contradiction() {
  return damagedHeader('The MP4 index contradicts itself about where its sound lies');
}
