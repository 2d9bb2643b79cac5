import { type Localised, localised } from '../localised';
import type { WaitChoice } from '../routing/clock';

/** Sentences that exist whatever a queue leaves out. `{key}` and `{what}` are filled in. */
export const CHOICES: Readonly<Record<WaitChoice, Localised>> = {
  callback: { en: 'be called back', es: 'que me llamen', fr: 'être rappelé', pl: 'poprosić o telefon' },
  message: { en: 'leave a message', es: 'dejar un mensaje', fr: 'laisser un message', pl: 'zostawić wiadomość' },
};
export const PRESS: Localised = {
  en: 'press {key} to {what}',
  es: 'pulse {key} para {what}',
  fr: 'appuyez sur {key} pour {what}',
  pl: 'naciśnij {key}, aby {what}',
};
export const LEAVE_IT: Localised = {
  en: 'Please leave your message now.',
  es: 'Deje su mensaje ahora.',
  fr: 'Laissez votre message maintenant.',
  pl: 'Proszę zostawić wiadomość.',
};
export const THANKS: Localised = {
  en: 'Thank you, we have your message. Goodbye.',
  es: 'Gracias, tenemos su mensaje. Hasta pronto.',
  fr: 'Merci, votre message est enregistré. Au revoir.',
  pl: 'Dziękujemy za wiadomość. Do usłyszenia.',
};
/** What a new question of a wait clock says before anybody words it. */
export const STILL_BUSY: Localised = {
  en: 'Everybody is still busy.',
  es: 'Seguimos atendiendo a otras personas.',
  fr: 'Tout le monde est encore occupé.',
  pl: 'Wszyscy są jeszcze zajęci.',
};
export const KEPT: Localised = {
  en: 'You keep your place.',
  es: 'Conserva su lugar.',
  fr: 'Vous gardez votre place.',
  pl: 'Twoje miejsce zostaje.',
};
export const NOT_KNOWN: Localised = {
  en: 'a few minutes',
  es: 'unos minutos',
  fr: 'quelques minutes',
  pl: 'kilka minut',
};
export const builtIn = (words: Localised, language: string): string => localised(words, language, ['en']);
/** Said at a door that leads to people of whom none is on duty, where it has no words of its own for that. */
export const AWAY: Localised = {
  en: 'Nobody is there just now.',
  es: 'Ahora mismo no hay nadie.',
  fr: 'Il n’y a personne pour le moment.',
  pl: 'Teraz nikogo nie ma.',
};
