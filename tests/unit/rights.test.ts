import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { LANE_RIGHTS, RIGHTS, type Right } from '../../src/core/people/rights';
import type { Actor } from '../../src/services/ground/actor';
import { SETTINGS_ACTS } from '../../src/services/settingsacts';
import { VIEWS } from '../../src/services/views';
import { codeIn, codeOf, makeWorld, type World } from '../helpers/world';

/**
 * The one right each act and view needs, or of several any one. Whoever adds one adds it here. `own` is about
 * oneself: no right, only a session.
 */
const ACTS: Readonly<Record<string, Right | 'own' | readonly Right[]>> = {
  'save-person': 'people.change',
  'set-levels': 'people.change',
  'set-for-now': 'people.change',
  'switch-person': 'people.change',
  'bulk-people': 'people.change',
  'keep-filter': 'people.view',
  'drop-filter': 'people.view',
  'keep-view': 'review.view',
  'drop-view': 'review.view',
  'mail-view': 'review.view',
  'begin-with-view': 'review.view',
  'keep-report': 'review.view',
  'drop-report': 'review.view',
  'send-report': 'review.view',
  'mark-days': 'queues.change',
  'unmark-days': 'queues.change',
  'save-coaching': 'people.coach',
  'write-note': 'people.coach',
  'drop-note': 'people.coach',
  'mark-talked': 'people.coach',
  'rate-contact': 'people.coach',
  'set-mood': 'people.coach',
  'drop-rating': 'people.coach',
  'draw-contacts': 'people.coach',
  'set-figure-goal': 'people.coach',
  'past-begin': 'review.import',
  'past-check': 'review.import',
  'past-keep': 'review.import',
  'past-stop': 'review.import',
  'past-take-out': 'review.import',
  'import-plan': 'people.change',
  'import-cancel': 'people.change',
  'import-apply': 'people.change',
  'send-invitations': 'people.change',
  'withdraw-invitations': 'people.change',
  'save-team': 'people.change',
  'save-skill-set': 'people.change',
  'save-site': 'people.change',
  'save-skill': 'people.change',
  'remove-thing': 'people.change',
  'save-profile': 'people.change',
  'remove-profile': 'people.change',
  'preview-profile': 'people.view',
  'save-queue-side': 'people.change',
  'save-away-reasons': 'people.change',
  'save-shift': 'people.change',
  'remove-shift': 'people.change',
  'import-shifts': 'people.change',
  'save-way': 'people.change',
  'remove-way': 'people.change',
  'save-desk-profile': 'people.change',
  'save-desk-rules': 'people.change',
  'save-stock-set': 'people.change',
  'remove-desk-thing': 'people.change',
  'save-role': 'roles.change',
  'remove-role': 'roles.change',
  'hand-on-ownership': 'roles.change',
  undo: 'history.view',
  'stop-press': 'own',
  'preview-queue': 'settings.view',
  'who-gets': 'settings.view',
  'remove-whole': ['queues.change', 'doors.change', 'bots.change', 'people.change'],
  'bring-back': ['queues.change', 'doors.change', 'bots.change', 'people.change'],
  'keep-draft': ['queues.change', 'doors.change', 'people.change', 'roles.change', 'bots.change'],
  'drop-draft': 'own',
  'plan-change': ['queues.change', 'doors.change', 'people.change', 'roles.change'],
  'call-off-plan': ['queues.change', 'doors.change', 'people.change', 'roles.change'],
  'save-queue': 'queues.change',
  'save-group': 'queues.change',
  'save-partner': 'queues.change',
  'save-own-limits': 'queues.change',
  'save-outcome': 'queues.change',
  'retire-outcome': 'queues.change',
  'change-callback': 'queues.change',
  mend: 'queues.change',
  'save-door': 'doors.change',
  'door-by-hand': 'doors.change',
  'make-door-key': 'doors.change',
  'end-door-key': 'doors.change',
  'save-hours': 'doors.change',
  'remove-hours': 'doors.change',
  'import-hours': 'doors.change',
  'save-bot': 'bots.change',
  'publish-bot': 'bots.publish',
  'bot-version-live': 'bots.publish',
  'would-ask': 'settings.view',
  'check-bot': 'settings.view',
  'bring-bot': 'bots.change',
  'keep-image': 'bots.change',
  'save-recording': 'bots.change',
  'remove-recording': 'bots.change',
  'save-shared-scene': 'bots.change',
  'save-connector': 'bots.change',
  'try-connector': 'bots.change',
  'save-table': 'bots.change',
  'read-table-file': 'bots.change',
  'save-hosts': 'roles.change',
  'save-stand-in': 'bots.change',
  'save-article': 'bots.change',
  'ask-articles': 'settings.view',
  'look-at-article': 'settings.view',
  'remove-bot-part': 'bots.change',
  'mend-words': ['queues.change', 'doors.change', 'people.change', 'bots.change'],
  'read-language': 'settings.view',
  'take-in-language': 'bots.change',
  'begin-language': 'bots.change',
  'open-language': 'doors.change',
  'save-phrasebook': 'bots.change',
  'read-phrasebook-file': 'bots.change',
  'rank-phrase': 'settings.view',
  'teach-phrase': 'bots.change',
  'stop-learning': 'bots.change',
  'save-field': 'bots.change',
  'try-bot': 'settings.view',
  'run-bot-test': 'settings.view',
  'keep-bot-test': 'bots.change',
  'remove-bot-test': 'bots.change',
  'mend-bot': 'bots.change',
  'try-again': 'queues.change',
  'bot-call-off': 'bots.publish',
  'join-customers': ['customers.change', 'desk.work'],
  'part-customers': ['customers.change', 'desk.work'],
  'not-them': ['customers.change', 'desk.work'],
  'set-customer': ['customers.change', 'desk.work'],
  'note-on-customer': ['customers.change', 'desk.work'],
  'drop-customer-note': ['customers.change', 'desk.work'],
  'ask-to-block': ['customers.change', 'desk.work'],
  'decide-block': 'customers.change',
  'erase-customer': 'customers.erase',
  'send-code': 'own',
  'verify-way': 'own',
  'choose-way': 'desk.work',
};
const READS: Readonly<Record<string, Right | 'own' | readonly Right[]>> = {
  strip: LANE_RIGHTS,
  floor: 'floor.view',
  contact: 'conversations.view',
  people: 'people.view',
  standings: 'people.view',
  person: 'people.view',
  ways: 'people.view',
  access: 'people.view',
  teams: 'people.view',
  duty: 'people.view',
  'queue-side': 'settings.view',
  shifts: 'people.view',
  desks: 'people.view',
  roles: 'people.view',
  import: 'people.change',
  history: 'history.view',
  'press-under-way': 'history.view',
  'to-fix': 'people.view',
  mailbox: 'people.change',
  removal: ['queues.change', 'doors.change', 'bots.change', 'people.change'],
  retired: 'settings.view',
  drafts: 'own',
  'own-drafts': 'own',
  plans: 'settings.view',
  'plans-ahead': 'settings.view',
  queues: 'settings.view',
  groups: 'settings.view',
  outcomes: 'settings.view',
  hours: 'settings.view',
  callbacks: 'floor.view',
  doors: 'settings.view',
  bots: 'settings.view',
  bot: 'settings.view',
  'bot-version': 'settings.view',
  'bot-traffic': 'settings.view',
  'bot-file': 'settings.view',
  'bot-surroundings': 'settings.view',
  'table-file': 'settings.view',
  'phrasebook-file': 'settings.view',
  'pass-targets': 'desk.work',
  customer: ['conversations.view', 'desk.work'],
  'contact-words': ['conversations.view', 'desk.work'],
  'find-customers': ['conversations.view', 'desk.work'],
  'customer-file': 'customers.erase',
  'said-to-bot': 'conversations.view',
  'book-learning': 'settings.view',
  'other-words-suggested': 'settings.view',
  'phrasebook-quality': 'settings.view',
  'article-questions': 'settings.view',
  connections: 'settings.view',
  'shared-scenes': 'settings.view',
  articles: 'settings.view',
  recordings: 'settings.view',
  words: 'settings.view',
  languages: 'settings.view',
  'language-file': 'settings.view',
  phrasebook: 'settings.view',
  fields: 'settings.view',
  review: 'review.view',
  'review-each': 'review.view',
  'review-subject': 'review.view',
  behind: 'review.view',
  'review-ranges': 'review.view',
  messages: 'review.view',
  promises: 'review.view',
  reports: 'review.view',
  report: 'review.view',
  'sent-report': 'review.view',
  'view-mailing': 'review.view',
  'find-contacts': 'conversations.view',
  'review-two': 'review.view',
  'time-used': 'review.view',
  'person-day': 'review.view',
  'contacts-of-reason': 'review.view',
  'review-changes': 'review.view',
  coaching: 'people.coach',
  'contact-coaching': 'people.coach',
  'person-coaching': 'people.coach',
  'own-coaching': 'desk.work',
  'own-work': 'desk.work',
  past: 'review.import',
  places: 'own',
};

let w: World;
beforeAll(() => {
  w = makeWorld();
});
afterAll(() => w.close());
const holding = (right: Right): Actor => ({
  ...w.actor('Tamsin Orrel'),
  roleName: 'tester',
  rights: [right],
  teams: 'all',
});

describe('every right against every act and view', () => {
  it('the tables name everything there is, and nothing else', () => {
    expect(Object.keys(SETTINGS_ACTS).sort()).toEqual(Object.keys(ACTS).sort());
    expect(Object.keys(VIEWS).sort()).toEqual(Object.keys(READS).sort());
  });
  const cells = (table: Readonly<Record<string, Right | 'own' | readonly Right[]>>) =>
    Object.entries(table).flatMap(([name, needed]) =>
      RIGHTS.map(
        (right) =>
          [
            name,
            right,
            needed === 'own' || needed === right || (typeof needed !== 'string' && needed.includes(right)),
          ] as const,
      ),
    );
  // Whoever holds only this right is let past the right's check (what they send is empty, so it is refused for
  // another reason), and nobody else is.
  it.each(cells(ACTS))('%s with only %s: %s', async (name, right, allowed) => {
    const code = await codeIn(() => w.services.act(name, holding(right), {}));
    expect(code !== 'not-allowed').toBe(allowed);
  });
  it.each(cells(READS))('reading %s with only %s: %s', async (name, right, allowed) => {
    const code = await codeIn(() => w.services.read(name, holding(right), {}));
    expect(code !== 'not-allowed').toBe(allowed);
  });
  it.each(RIGHTS)('the Desk with only %s', (right) => {
    expect(
      codeOf(() => w.services.desk.act(holding(right), { act: 'duty', duty: 'off' }, null)) !== 'not-allowed',
    ).toBe(right === 'desk.work');
    expect(codeOf(() => w.services.review.csv(holding(right), {})) !== 'not-allowed').toBe(right === 'review.export');
    expect(codeOf(() => w.services.peopleImport.begin(holding(right), new Uint8Array(), 'x')) !== 'not-allowed').toBe(
      right === 'people.change',
    );
  });
  it('what belongs to everybody takes the right for all teams', async () => {
    const scoped: Actor = { ...holding('people.change'), rights: RIGHTS, teams: ['team_front'] };
    for (const name of [
      'save-team',
      'save-skill-set',
      'save-site',
      'save-skill',
      'save-profile',
      'save-queue-side',
      'save-desk-profile',
      'save-desk-rules',
      'save-queue',
      'mark-days',
      'unmark-days',
      'save-coaching',
      'save-door',
      'make-door-key',
      'end-door-key',
      'save-bot',
      'publish-bot',
      'begin-language',
      'open-language',
    ])
      expect([name, await codeIn(() => w.services.act(name, scoped, {}))]).toEqual([name, 'not-allowed']);
    expect(codeOf(() => w.services.read('mailbox', scoped, {}))).toBe('not-allowed');
  });
});
