/** Controls of ours that are no fields: keys mean there what they mean everywhere. */
export const anywhere = { enableOnFormTags: ['radio', 'slider'] } as const;

/** Does what a button of the station does whose name begins so. */
export function pressButton(label: string): void {
  const named = (tag: string) => `main ${tag}[aria-label^="${label}"]`;
  document.querySelector<HTMLElement>(`${named('button')}, ${named('summary')}`)?.click();
}
