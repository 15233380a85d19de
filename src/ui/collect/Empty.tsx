import { useIntake } from './intake/DropAnywhere';

/** What stands where nothing has come in yet. */
export function Empty() {
  const { chooseFiles, chooseFolder } = useIntake();
  return (
    <div className="border-base-300 mx-auto mt-10 max-w-xl border-y py-10 text-center">
      <p className="font-serif text-2xl">Nothing here yet</p>
      <p className="text-soft mt-2 leading-relaxed">
        Drop sounds, folders or zip archives anywhere on this page, paste files, or choose{' '}
        <button className="link link-primary" onClick={chooseFiles}>
          files
        </button>{' '}
        or{' '}
        <button className="link link-primary" onClick={chooseFolder}>
          a folder
        </button>
        . Bijou reads WAV, AIFF, FLAC, MP3, Ogg, Opus, WebM, AAC, M4A and the sound of MP4 and MOV
        video; raw samples when you say what they are. Your files stay as they are: everything that
        is done to a sound is kept beside it, never in it.
      </p>
    </div>
  );
}
