import type { ListedWorry, Sound } from '@/wire';
import { count } from '../../shared/format';
import { Popover } from '../../shared/Popover';
import { ANY_WORRY, SET_ASIDE } from '../table/useSoundTable';
import { WorryPanel } from './WorryPanel';

interface Kind {
  code: string;
  name: string;
  worried: { sound: Sound; worry: ListedWorry }[];
}

/** The worries that there are, most frequent first; pressing one shows only the sounds that have it. */
export function WorryFilter({
  sounds,
  chosen,
  onChoose,
}: {
  sounds: readonly Sound[];
  chosen: string | null;
  onChoose: (code: string | null) => void;
}) {
  const kinds = worryKinds(sounds);
  const isWorried = (sound: Sound) => sound.worries.some(({ state }) => state === 'open');
  const any = sounds.filter(isWorried).length;
  const aside = sounds.filter(({ worries }) =>
    worries.some(({ state }) => state === 'set-aside'),
  ).length;
  if (any + aside === 0 && chosen === null) return null;
  const chip = (code: string, name: string, n: number) => (
    <button
      aria-pressed={chosen === code}
      className={`rounded-sm border px-1.5 text-xs leading-5 ${
        chosen === code
          ? 'border-primary bg-primary text-primary-content'
          : 'border-base-300 hover:border-secondary bg-base-100'
      }`}
      title={chosen === code ? 'Show all sounds again' : 'Show only these sounds'}
      onClick={() => onChoose(chosen === code ? null : code)}
    >
      {name} <span className="opacity-75">{count(n)}</span>
    </button>
  );
  const active = kinds.find(({ code }) => code === chosen);
  return (
    <div role="group" aria-label="Worries" className="mb-2 flex flex-wrap items-center gap-1.5">
      <span className="text-soft text-xs font-semibold">Worries</span>
      {chip(ANY_WORRY, 'any', any)}
      {kinds.map(({ code, name, worried }) => (
        <span key={code}>{chip(code, name, worried.length)}</span>
      ))}
      {aside > 0 && chip(SET_ASIDE, 'set aside', aside)}
      {active && active.worried.length > 0 && (
        <Popover
          label={`What to do about “${active.name}”`}
          face="What to do…"
          className="btn btn-paper btn-xs"
        >
          {(close) => <WorryPanel worried={active.worried} onDone={close} />}
        </Popover>
      )}
    </div>
  );
}

/** Open worries by kind, most frequent first. */
export function worryKinds(sounds: readonly Sound[]): Kind[] {
  const kinds = new Map<string, Kind>();
  for (const sound of sounds) {
    for (const worry of sound.worries) {
      if (worry.state !== 'open') continue;
      const kind = kinds.get(worry.code) ?? { code: worry.code, name: worry.name, worried: [] };
      kinds.set(worry.code, kind);
      kind.worried.push({ sound, worry });
    }
  }
  return [...kinds.values()].sort((a, b) => b.worried.length - a.worried.length);
}
