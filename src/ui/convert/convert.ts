import { create } from 'zustand';

interface Convert {
  isOpen: boolean;
  /** The sounds that were chosen when it was opened. */
  ids: readonly number[];
  /** Sounds with a higher id came in for it, and belong to it as well; null where none are waited for. */
  since: number | null;
  /** The conversion whose files are shown; null while it is being decided what to do. */
  setId: number | null;
}

const closed: Convert = { isOpen: false, ids: [], since: null, setId: null };

/** The sheet on which sounds are converted without a destination. */
export const useConvert = create<Convert>(() => closed);

/** Opens it for some sounds, and for those that come in later where `since` is given. */
export function openConvert(ids: readonly number[], since: number | null): void {
  useConvert.setState({ ...closed, isOpen: true, ids, since });
}

/** Shows the files of a conversion. */
export function showConversion(setId: number): void {
  useConvert.setState({ isOpen: true, setId });
}

export function chooseAgain(): void {
  useConvert.setState({ setId: null });
}

export function closeConvert(): void {
  useConvert.setState(closed);
}
