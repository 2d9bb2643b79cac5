import { documents } from './documents';

/** On which mornings a kept view is mailed. */
export const MAIL_DAYS = ['daily', 'monday'] as const;
export type MailDays = (typeof MAIL_DAYS)[number];

/** A kept view that is mailed, under the view's id: to whom, and which local day's mail each of them has had last. */
export type MailedView = {
  readonly days: MailDays;
  readonly personIds: readonly string[];
  /** The day whose mail is due; null before the first. */
  readonly due: string | null;
  readonly had: Readonly<Record<string, string>>;
};
export const MAILED_VIEWS = documents<MailedView>('mailed-view');

/** The kept view with which somebody's Review begins, under their id. */
export const FIRST_VIEWS = documents<{ readonly viewId: string }>('first-view');
