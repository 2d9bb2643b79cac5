import { type Channel, isText } from '../channels';
import { type Localised, localised } from '../localised';

/** One thing that can be answered: its key or number, and its words. */
export type Option = { readonly key: string; readonly label: string };

const PRESS: Localised = {
  en: 'For {label}, press {key}.',
  es: 'Para {label}, pulse {key}.',
  fr: 'Pour {label}, tapez {key}.',
  pl: '{label}: naciśnij {key}.',
};

/** Channels on which what can be answered is read as numbered text; in chat it is there to be pressed. */
export const isNumbered = (channel: Channel): boolean => isText(channel) && channel !== 'chat';

/**
 * What can be answered, one piece of text each, as a channel says it: spoken with its key, or numbered, on a line of
 * its own. Empty where it is shown to be pressed.
 */
export function optionLines(channel: Channel, language: string, options: readonly Option[]): string[] {
  if (channel === 'chat') return [];
  if (isNumbered(channel)) return options.map(({ key, label }) => `\n${`${key} ${label}`.trim()}`);
  const press = localised(PRESS, language, ['en']);
  return options
    .filter(({ key }) => key)
    .map(({ key, label }) => ` ${press.replace('{label}', () => label).replace('{key}', () => key)}`);
}
