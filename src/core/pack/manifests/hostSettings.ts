import { MOST_LEVEL, usualChoice, usualHint, type StageChoices } from '../../host/filter/choices';
import { SETTINGS_PATH, settingsText } from '../../host/filter/settings';
import type { ManifestData } from '../data';
import { manifest } from './kind';

export const hostSettings = manifest({
  id: 'host-settings',
  title: 'What to set in the host',
  about:
    'For each sound what is chosen by hand where it is put in: what starts and stops it, whether it repeats. The filter ' +
    'stage reads it too.',
  is: 'text',
  path: SETTINGS_PATH,
  fields: {
    '(file)': 'each file with its length',
    '(trigger)': 'what a tap, a blink or another trigger does to it, in a sentence',
    fade: 'how long it takes to come up and to go',
    loop: 'on for what repeats',
    level: '0 to 100; 100 as the files were levelled here',
    'Hint on the screen': 'its text, when it comes, and how long it stays',
  },
  text: (data) => settingsText(data.title, data.sounds, stageChoices(data)),
});

/** As it was set on the stage; as hosts begin where nobody has set anything. */
function stageChoices({ sounds, stage, fields }: ManifestData): StageChoices {
  const given = typeof fields['level'] === 'number' ? fields['level'] : MOST_LEVEL;
  const level = Math.min(MOST_LEVEL, Math.max(0, given));
  const text = String(fields['hint'] ?? usualHint.text);
  const usual = sounds.map((sound, i) => [sound.path, usualChoice(i, sound, level)] as const);
  return {
    sounds: { ...Object.fromEntries(usual), ...stage?.sounds },
    hint: stage?.hint ?? { ...usualHint, text },
  };
}
