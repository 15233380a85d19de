import { filledSettings, writerById } from '../formats/write';
import { formatTime } from '../time';
import { either, formatName, layoutName, plainNumber } from '../tradeNames';
import { plural } from '../words';
import { freedomOf, type Accepted, type Freedom } from './accepted';
import { keepsBitRate } from './contradictions';
import { layoutDemands } from './layoutDemands';
import type { Brief, BriefFile } from './schema';
import { toleranceOf } from './target';
import { acceptedRates, numbersText } from './words';

/** One thing that a brief says, or leaves open, in words. */
export interface Demand {
  /** Which of its files; null for all of them. */
  fileId: string | null;
  demand: string;
  label: string;
  freedom: Freedom;
  text: string;
}

type Said = Omit<Demand, 'fileId'>;

const AS_SOURCE = 'as the source';

/** Everything that a brief demands of its files and leaves open, in the order in which people read it. */
export function demandsOf(brief: Brief): Demand[] {
  const ofFiles = brief.files.flatMap((file) =>
    demandsOfFile(file).map((said) => ({ fileId: file.id, ...said })),
  );
  return [...ofFiles, ...demandsOfAll(brief).map((said) => ({ fileId: null, ...said }))];
}

function demandsOfFile(file: BriefFile): Said[] {
  const writer = writerById(file.writer);
  const formats = [file.writer, ...(file.alsoTakes ?? [])].map(writerById);
  const depths = writer.legal.depths;
  const said = (
    demand: string,
    label: string,
    wanted: Accepted | undefined,
    text: string,
  ): Said => ({
    demand,
    label,
    freedom: freedomOf(wanted),
    text: wanted ? text : AS_SOURCE,
  });
  const { sampleRatesHz, channels } = file;
  return [
    {
      demand: 'format',
      label: 'Format',
      freedom: formats.length > 1 ? 'list' : 'fixed',
      text: either(formats.map((one) => formatName(one.container, one.codec))),
    },
    ...bitRateDemands(file),
    said(
      'sample-rate',
      'Sample rate',
      sampleRatesHz,
      sampleRatesHz ? acceptedRates(sampleRatesHz) : '',
    ),
    said('channels', 'Channels', channels, either((channels ?? []).map(layoutName))),
    ...(depths
      ? [
          said(
            'bit-depth',
            'Bit depth',
            depthsOf(file),
            either((depthsOf(file) ?? []).map((bits) => `${bits}-bit`)),
          ),
        ]
      : []),
    ...endingDemand(file),
  ];
}

/** Those that are demanded, or that its settings give it anyway. */
function depthsOf({ bitDepths, settings }: BriefFile): readonly number[] | undefined {
  const { bits } = settings as { bits?: unknown };
  return bitDepths ?? (typeof bits === 'number' ? [bits] : undefined);
}

function bitRateDemands({ writer: id, settings, bitRatesKbps, isConstant }: BriefFile): Said[] {
  const writer = writerById(id);
  if (writer.dials.length === 0) return [];
  const how = isConstant === undefined ? '' : isConstant ? ', constant' : ', variable';
  const made = writer.describe(filledSettings(writer, settings));
  const isMade = 'kbps' in settings || 'quality' in settings || 'level' in settings;
  const keeps = keepsBitRate(writer, settings) ? 'constant' : 'variable';
  return [
    {
      demand: 'bit-rate',
      label: 'Bit rate',
      freedom: bitRatesKbps ? freedomOf(bitRatesKbps) : isConstant === undefined ? 'free' : 'fixed',
      text: bitRatesKbps ? `${numbersText(bitRatesKbps)} kbit/s${how}` : how.slice(2) || 'any',
    },
    {
      demand: 'made-with',
      label: 'Made with',
      freedom: isMade ? 'fixed' : 'free',
      text: isMade
        ? `${made}${/variable|level/.test(made) ? '' : `, ${keeps}`}`
        : `${made}, as usual`,
    },
  ];
}

function endingDemand({ ending }: BriefFile): Said[] {
  if (ending === undefined) return [];
  const text = ending === '' ? 'none' : `.${ending}`;
  return [{ demand: 'ending', label: 'Ending', freedom: 'fixed', text }];
}

function demandsOfAll(brief: Brief): Said[] {
  return [
    lengthDemand(brief),
    limit('bytes', 'Bytes of a file', brief.mostBytes),
    limit('total-bytes', 'Bytes of all files', brief.mostTotalBytes),
    ...levelDemands(brief),
    ...loopDemands(brief),
    ...nameDemands(brief),
    tagDemand(brief),
    ...layoutDemands(brief),
    ...(brief.languages
      ? [
          {
            demand: 'language',
            label: 'Languages',
            freedom: 'list' as const,
            text: brief.languages.join(', '),
          },
        ]
      : []),
  ];
}

function lengthDemand({ leastSeconds, mostSeconds }: Brief): Said {
  const parts = [
    leastSeconds === undefined ? '' : `at least ${formatTime(leastSeconds)}`,
    mostSeconds === undefined ? '' : `at most ${formatTime(mostSeconds)}`,
  ].filter(Boolean);
  return {
    demand: 'length',
    label: 'Length',
    freedom: parts.length > 0 ? 'range' : 'free',
    text: parts.join(', ') || AS_SOURCE,
  };
}

function limit(demand: string, label: string, most: number | undefined): Said {
  return most === undefined
    ? { demand, label, freedom: 'free', text: 'any' }
    : { demand, label, freedom: 'range', text: `at most ${plural(most, 'byte')}` };
}

function levelDemands({ level }: Brief): Said[] {
  const ways = { all: 'all of it turned down', moments: 'loud moments turned down' };
  const by = level?.by ? `, ${ways[level.by]}` : '';
  return [
    level?.peakDbtp === undefined
      ? { demand: 'peak', label: 'True peak', freedom: 'free', text: AS_SOURCE }
      : {
          demand: 'peak',
          label: 'True peak',
          freedom: 'range',
          text: `at most ${plainNumber(level.peakDbtp)} dBTP${by}${level.isFixed ? ', encoded once' : ''}`,
        },
    level?.lufs === undefined
      ? { demand: 'loudness', label: 'Loudness', freedom: 'free', text: AS_SOURCE }
      : {
          demand: 'loudness',
          label: 'Loudness',
          freedom: 'range',
          text: `${plainNumber(level.lufs)} LUFS, ± ${plainNumber(toleranceOf(level))} LU`,
        },
  ];
}

function loopDemands({ loop }: Brief): Said[] {
  const places = { file: 'marked in the file', manifest: 'in the manifest', forbidden: 'none' };
  const parts = [
    loop?.isNeeded ? 'every sound has one' : '',
    loop?.marked ? places[loop.marked] : '',
  ].filter(Boolean);
  const said: Said = {
    demand: 'loop',
    label: 'Loop',
    freedom: parts.length > 0 ? 'fixed' : 'free',
    text: parts.join(', ') || AS_SOURCE,
  };
  if (loop?.leastSeamScore === undefined) return [said];
  const text = `at least ${plainNumber(loop.leastSeamScore, 0)} of 100`;
  return [said, { demand: 'seam', label: 'Seam', freedom: 'range', text }];
}

function nameDemands({ names = {}, folder }: Brief): Said[] {
  const { pattern, case: letterCase, characters, joiner, longest, meeting } = names;
  const parts = [
    pattern ?? '',
    letterCase ? `${letterCase} case` : '',
    characters ? `characters ${characters}` : '',
    joiner === undefined || characters === undefined ? '' : `others become “${joiner}”`,
    longest === undefined ? '' : `at most ${longest} characters`,
  ].filter(Boolean);
  return [
    {
      demand: 'name',
      label: 'Name',
      freedom: parts.length > 0 ? 'fixed' : 'free',
      text: parts.join(', ') || AS_SOURCE,
    },
    {
      demand: 'meeting',
      label: 'Two of one name',
      freedom: 'fixed',
      text: meeting === 'refuse' ? 'are refused' : 'are numbered',
    },
    {
      demand: 'folder',
      label: 'Folder',
      freedom: folder === undefined ? 'free' : 'fixed',
      text: folder ?? 'all in one',
    },
  ];
}

function tagDemand({ tags }: Brief): Said {
  const set = Object.entries(tags?.set ?? {}).map(([name, text]) => `${name} set to “${text}”`);
  const kept = tags?.keep;
  const keeping = kept ? (kept.length > 0 ? `${kept.join(', ')} kept` : 'no others') : '';
  const parts = [...set, keeping].filter(Boolean);
  return {
    demand: 'tags',
    label: 'Tags',
    freedom: parts.length > 0 ? 'fixed' : 'free',
    text: kept?.length === 0 && set.length === 0 ? 'none' : parts.join(', ') || AS_SOURCE,
  };
}
