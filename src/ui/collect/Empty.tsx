import { ArrowRight, AudioLines, Download, FileInput, Play } from 'lucide-react';
import { useIntake } from './intake/DropAnywhere';

/** The whole way of the plain job, as somebody goes it who was never here. */
const way = [
  { icon: FileInput, name: 'Bring in', says: 'drop files, folders or zips here' },
  { icon: Play, name: 'Hear', says: 'Space plays what you dropped' },
  { icon: AudioLines, name: 'Convert…', says: 'choose a format, see what it will weigh' },
  { icon: Download, name: 'Download', says: 'one file, or all as a zip' },
] as const;

/** What stands where nothing has come in yet. */
export function Empty() {
  const { chooseFiles, chooseFolder } = useIntake();
  return (
    <div className="mx-auto mt-6 w-full max-w-3xl text-center">
      <div className="border-base-300 border-2 border-dashed px-6 py-12">
        <p className="font-serif text-3xl">Drop a sound here to begin</p>
        <p className="text-soft mt-2">
          or choose{' '}
          <button className="link link-primary" onClick={chooseFiles}>
            files
          </button>{' '}
          or{' '}
          <button className="link link-primary" onClick={chooseFolder}>
            a folder
          </button>
          , or paste what you copied
        </p>
        <ol className="mt-8 flex flex-wrap items-start justify-center gap-x-3 gap-y-4">
          {way.map(({ icon: Icon, name, says }, i) => (
            <li key={name} className="flex items-start gap-3">
              {i > 0 && (
                <ArrowRight size={16} aria-hidden className="text-soft mt-2 max-md:hidden" />
              )}
              <span className="w-32">
                <Icon size={26} aria-hidden className="text-primary mx-auto" />
                <span className="mt-1.5 block font-semibold">{name}</span>
                <span className="text-soft block text-xs">{says}</span>
              </span>
            </li>
          ))}
        </ol>
      </div>
      <p className="text-soft mx-auto mt-4 max-w-xl text-xs leading-relaxed">
        Bijou reads WAV, AIFF, FLAC, MP3, Ogg, Opus, WebM, AAC, M4A and the sound of MP4 and MOV
        video; raw samples when you say what they are. Your files stay as they are: everything that
        is done to a sound is kept beside it, never in it.
      </p>
    </div>
  );
}
