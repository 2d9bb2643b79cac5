import { array, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import {
  DESK_PANEL_IDS,
  DESK_PANELS,
  DESK_VIEW_IDS,
  type DeskPanel,
  type DeskProfile,
  type DeskRule,
  type DeskView,
  type Helper,
  HELPER_IDS,
  helperBar,
  HELPERS,
  MOMENTS,
} from '../../core/people/deskprofile';
import { unknownPlaceholders } from '../../core/messages/stockreplies';
import { DESK_PROFILES, DESK_RULES, STOCK_SETS, THE_RULES } from '../../data/duty';
import { readFields } from '../../data/fields';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import { type Undoable, noteChange, recordChange, removeUndoable, sameRevision } from '../ground/change';
import type { Tx } from '../ground/host';
import { exactly, id, localisedSchema, oneOf, requiredText, whole } from '../ground/schemas';
import { whoSchema } from '../ground/whoschema';
import { parse } from '../ground/validate';
import {
  bareProfile,
  bareSet,
  type DeskProfilesDeps,
  layoutFor,
  rulesNow,
  type StockSet,
  viewDesks,
} from './desklayout';

const panelsAt = array(oneOf<DeskPanel>(DESK_PANEL_IDS, 'A panel')).required('The panels are missing');

const base = {
  id: string().nullable().defined(),
  revision: whole(0, 1e9, 'The revision'),
  name: requiredText(60, 'The name'),
};

const profileSchema = exactly(
  object({
    ...base,
    panels: exactly(object({ offered: panelsAt, talking: panelsAt, finishing: panelsAt })),
    helpers: array(oneOf<Helper>(HELPER_IDS, 'A helper')).required('The helpers are missing'),
    stockSetIds: array(id('A set of replies')).max(50).required('The sets are missing'),
    views: array(oneOf<DeskView>(DESK_VIEW_IDS, 'A view')).required('The views are missing'),
  }),
);

const rulesSchema = exactly(
  object({
    revision: whole(0, 1e9, 'The revision'),
    helpers: array(oneOf<Helper>(HELPER_IDS, 'A helper')).required('The helpers are missing'),
    rules: array(
      exactly(
        object({
          who: whoSchema,
          exceptIds: array(id('A person')).max(500).required('The exceptions are missing'),
          profileId: id('The profile'),
        }),
      ),
    )
      .max(100, 'At most 100 rules')
      .required('The rules are missing'),
  }),
);

const stockSchema = exactly(
  object({
    ...base,
    replies: array(
      exactly(
        object({
          id: string().nullable().defined(),
          title: requiredText(60, 'The title'),
          text: localisedSchema(2000, 'The text'),
        }),
      ),
    )
      .max(300, 'At most 300 replies in a set')
      .required('The replies are missing'),
  }),
);

const removeSchema = exactly(
  object({ kind: oneOf(['desk-profile', 'stock-set'] as const, 'The kind'), id: id('The thing') }),
);

function putProfile(tx: Tx, p: DeskProfile): void {
  for (const moment of MOMENTS) {
    const wrong = p.panels[moment].find((panel) => !(DESK_PANELS[panel].at as readonly string[]).includes(moment));
    if (wrong)
      throw new LaneError('not-valid', `${DESK_PANELS[wrong].name} cannot be shown then.`, [
        { where: `panels.${moment}`, what: `${wrong} is not for this moment` },
      ]);
  }
  // The need of a helper is kept whether or not it is on for the workspace just now.
  const all = new Set(HELPER_IDS);
  for (const helper of p.helpers) {
    const bar = helperBar(helper, p, all);
    if (bar) throw new LaneError('not-valid', `${HELPERS[helper].name} ${bar}.`, [{ where: 'helpers', what: bar }]);
  }
  const sets = new Set(STOCK_SETS.all(tx.db).map((s) => s.id));
  if (!p.stockSetIds.every((s) => sets.has(s)))
    throw new LaneError('not-valid', 'One set of replies does not exist.', [
      { where: 'stockSetIds', what: 'is not known' },
    ]);
  if (DESK_PROFILES.all(tx.db).some((o) => o.id !== p.id && o.name.toLowerCase() === p.name.toLowerCase()))
    throw new LaneError('not-valid', `There is already a desk profile called ${p.name}.`, [
      { where: 'name', what: 'is taken' },
    ]);
  DESK_PROFILES.write(tx.db, p.id, p.name, {
    panels: p.panels,
    helpers: p.helpers,
    stockSetIds: p.stockSetIds,
    views: p.views,
  });
}

function putRules(tx: Tx, value: { rules: readonly DeskRule[]; helpers: readonly Helper[] }) {
  const there = new Set(DESK_PROFILES.all(tx.db).map((p) => p.id));
  if (!value.rules.every((r) => there.has(r.profileId)))
    throw new LaneError('not-valid', 'One desk profile does not exist.', [
      { where: 'rules', what: 'names a profile that is not known' },
    ]);
  DESK_RULES.write(tx.db, THE_RULES, 'Who gets which desk profile', { rules: value.rules, helpers: value.helpers });
}

function drop(tx: Tx, kind: 'desk-profile' | 'stock-set', thingId: string): void {
  if (kind === 'desk-profile') {
    const users = rulesNow(tx.db).rules.filter((r) => r.profileId === thingId).length;
    if (users > 0)
      throw new LaneError(
        'not-now',
        `${users} ${users === 1 ? 'rule gives' : 'rules give'} this profile. Change ${users === 1 ? 'it' : 'them'} first.`,
      );
    DESK_PROFILES.remove(tx.db, thingId);
  } else STOCK_SETS.remove(tx.db, thingId);
}

/** Takes a set of replies out of the desk profiles that show it; each is a change of its own within the press. */
function hideSet(tx: Tx, actor: Actor, setId: string, batch: string): void {
  for (const p of DESK_PROFILES.all(tx.db).filter((x) => x.stockSetIds.includes(setId))) {
    const before = bareProfile(p);
    const after = { ...before, stockSetIds: before.stockSetIds.filter((s) => s !== setId) };
    putProfile(tx, after);
    noteChange(tx, actor, 'desk-profile', p.id, before, after, { batch });
  }
}

const putSet = (tx: Tx, s: { id: string; name: string; replies: StockSet['replies'] }) =>
  STOCK_SETS.write(tx.db, s.id, s.name, { replies: s.replies });

const path = (kind: string) => (thingId: string) => `/people/desks?${kind}=${thingId}`;

const undoableDesks: Record<string, Undoable> = {
  'desk-profile': {
    name: 'desk profile',
    path: path('profile'),
    read: (db, thingId) => {
      const p = DESK_PROFILES.one(db, thingId);
      return p ? bareProfile(p) : null;
    },
    restore: (tx, actor, thingId, value) => {
      mustHoldEverywhere(actor, 'people.change');
      if (value === null) drop(tx, 'desk-profile', thingId);
      else putProfile(tx, value as DeskProfile);
    },
  },
  'desk-rules': {
    name: 'desk profile rules',
    path: () => '/people/desks',
    read: (db) => {
      const r = rulesNow(db);
      return { rules: r.rules, helpers: r.helpers };
    },
    restore: (tx, actor, _id, value) => {
      mustHoldEverywhere(actor, 'people.change');
      putRules(tx, (value ?? { rules: [], helpers: [] }) as { rules: DeskRule[]; helpers: Helper[] });
    },
  },
  'stock-set': {
    name: 'stock replies',
    path: path('set'),
    read: (db, thingId) => {
      const s = STOCK_SETS.one(db, thingId);
      return s ? bareSet(s) : null;
    },
    restore: (tx, actor, thingId, value) => {
      mustHoldEverywhere(actor, 'people.change');
      if (value === null) drop(tx, 'stock-set', thingId);
      else putSet(tx, value as StockSet);
    },
  },
};

export function saveProfile({ host }: DeskProfilesDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'people.change');
  const { revision, ...p } = parse(profileSchema, input);
  return host.transact((tx) => {
    const before = p.id === null ? undefined : DESK_PROFILES.one(tx.db, p.id);
    if (p.id !== null && !before) throw new LaneError('not-found', 'This desk profile is not there any more.');
    sameRevision(before, revision, p.name);
    const after: DeskProfile = { ...p, id: p.id ?? tx.ids('desk') };
    putProfile(tx, after);
    recordChange(tx, actor, 'desk-profile', after.id, before ? bareProfile(before) : null, after);
    return { id: after.id };
  });
}

/** Replaces the ordered rules and the helpers that are on for the workspace. */
export function saveRules({ host }: DeskProfilesDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'people.change');
  const { revision, ...asked } = parse(rulesSchema, input);
  return host.transact((tx) => {
    sameRevision(DESK_RULES.one(tx.db, THE_RULES), revision, 'The list of rules');
    const before = undoableDesks['desk-rules']?.read(tx.db, THE_RULES, null);
    putRules(tx, asked);
    recordChange(tx, actor, 'desk-rules', THE_RULES, before, asked, { label: 'Who gets which desk profile' });
    return { id: THE_RULES };
  });
}

export function saveSet({ host }: DeskProfilesDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'people.change');
  const { revision, ...s } = parse(stockSchema, input);
  const fields = readFields(host.db).map((f) => f.name);
  const odd = s.replies.flatMap((r, i) =>
    Object.values(r.text).flatMap((text) =>
      unknownPlaceholders(text, fields).map((name) => ({
        where: `replies[${i}].text`,
        what: `Nothing fills {${name}} in ${r.title}`,
      })),
    ),
  );
  if (odd[0]) throw new LaneError('not-valid', `${odd[0].what}.`, odd);
  return host.transact((tx) => {
    const before = s.id === null ? undefined : STOCK_SETS.one(tx.db, s.id);
    if (s.id !== null && !before) throw new LaneError('not-found', 'This set is not there any more.');
    sameRevision(before, revision, s.name);
    const after = {
      id: s.id ?? tx.ids('stock'),
      name: s.name,
      replies: s.replies.map((r) => ({ ...r, id: r.id ?? tx.ids('reply') })),
    };
    putSet(tx, after);
    recordChange(tx, actor, 'stock-set', after.id, before ? bareSet(before) : null, after);
    return { id: after.id };
  });
}

export function removeDesk({ host }: DeskProfilesDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'people.change');
  const asked = parse(removeSchema, input);
  return host.transact((tx) => {
    const batch = tx.ids('batch');
    return removeUndoable(
      tx,
      actor,
      undoableDesks,
      asked.kind,
      asked.id,
      () => {
        if (asked.kind === 'stock-set') hideSet(tx, actor, asked.id, batch);
        drop(tx, asked.kind, asked.id);
      },
      { batch },
    );
  });
}

/** What Desks show, and who gets which. Hiding is not forbidding: rights are checked elsewhere. */
export const createDeskProfiles = (deps: DeskProfilesDeps) => ({
  undoable: undoableDesks,
  ...bind(deps, { view: viewDesks, layoutFor, saveProfile, saveRules, saveSet, remove: removeDesk }),
});

export type DeskProfiles = ReturnType<typeof createDeskProfiles>;
