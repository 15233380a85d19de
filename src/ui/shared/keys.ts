/** Controls of ours that are no fields: keys mean there what they mean everywhere. */
export const anywhere = { enableOnFormTags: ['radio', 'slider'] } as const;

/** Does what a button of the station does that is called so. */
export function pressButton(label: string): void {
  document.querySelector<HTMLButtonElement>(`main button[aria-label="${label}"]`)?.click();
}
