import { mixed, object, string } from 'yup';
import { DRAFT_KINDS, DRAFTED, type DraftKind } from '../../core/drafts/kinds';
import { LaneError } from '../../core/errors';
import { holds } from '../../core/people/rights';
import { countDrafts, type Draft, draftsOf, dropDraftOf, turnOf, writeDraftOf } from '../../data/drafts';
import type { Actor } from '../ground/actor';
import { mustHold, mustHoldEverywhere, mustHoldOne } from '../ground/actor';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';
import { exactly, oneOf, text, whole } from '../ground/schemas';
import { parse } from '../ground/validate';
import { RIGHT_TO_CHANGE } from './gathered';

/** Whoever has more than this unfinished has lost sight of it. */
const MOST = 200;
/** Characters that a version may have; a large phrasebook has half of it. */
const LONGEST = 1_000_000;

const version = mixed<object>()
  .required('A version is missing')
  .test('plain', 'A version must be an object', (v) => typeof v === 'object' && v !== null && !Array.isArray(v))
  .test('long', 'This is larger than a draft may be', (v) => JSON.stringify(v ?? {}).length <= LONGEST);
const which = { kind: oneOf<DraftKind>(DRAFT_KINDS, 'The kind'), id: string().max(80).nullable().defined() };
const keepSchema = exactly(
  object({
    ...which,
    label: text(200, 'What it is called').defined(),
    revision: whole(0, 1e9, 'The revision'),
    base: version,
    mine: version,
    turn: whole(0, 1e9, 'The turn'),
  }),
);
const dropSchema = exactly(object(which));

/** Unfinished changes of one kind, whole. */
export type DraftsView = { readonly drafts: readonly Draft[] };
/** One of the reader's own unfinished changes, and where it is gone on with. */
export type DraftLine = Pick<Draft, 'kind' | 'thingId' | 'label' | 'realAt'> & {
  readonly kindName: string;
  readonly path: string;
};
export type OwnDraftsView = { readonly drafts: readonly DraftLine[] };

/** What the functions of this file are given first. */
export type DraftsDeps = { readonly host: Host };

const ofReader = ({ host }: DraftsDeps, actor: Actor): Draft[] =>
  draftsOf(host.db, actor.personId).filter((d) => holds(actor, RIGHT_TO_CHANGE[d.kind]));

/** The reader's own of a kind. Nobody reads another's. */
export const viewDrafts = (deps: DraftsDeps, actor: Actor, asked: { readonly kind?: string }): DraftsView => ({
  drafts: ofReader(deps, actor).filter((d) => d.kind === asked.kind),
});
/** All of the reader's own, latest first. */
export const viewOwnDrafts = (deps: DraftsDeps, actor: Actor): OwnDraftsView => ({
  drafts: ofReader(deps, actor).map(({ kind, thingId, label, realAt }) => ({
    kind,
    thingId,
    label,
    realAt,
    kindName: DRAFTED[kind].name,
    path: DRAFTED[kind].path(thingId),
  })),
});

function mayChange(actor: Actor, kind: DraftKind): void {
  if (kind === 'role') mustHold(actor, RIGHT_TO_CHANGE[kind]);
  else mustHoldEverywhere(actor, RIGHT_TO_CHANGE[kind]);
}

/**
 * Keeps what somebody is changing, unfinished as it may be: it is checked when it is applied. Throws `changed-meanwhile`
 * when another window of theirs kept it since `turn`. Gives the turn that it has now.
 */
export function keepDraft({ host }: DraftsDeps, actor: Actor, input: unknown): { turn: number } {
  mustHoldOne(actor, Object.values(RIGHT_TO_CHANGE));
  const asked = parse(keepSchema, input);
  mayChange(actor, asked.kind);
  return host.transact((tx) => {
    const thingId = asked.id ?? '';
    const turn = turnOf(tx.db, actor.personId, asked.kind, thingId);
    if (turn !== asked.turn)
      throw new LaneError('changed-meanwhile', 'Another window of yours has changed this draft. Open it anew here.');
    if (turn === 0 && countDrafts(tx.db, actor.personId) >= MOST)
      throw new LaneError('not-now', `You have ${MOST} unfinished changes. Apply or forget some of them first.`);
    const { kind, label, revision, base, mine } = asked;
    const kept = { kind, thingId, label, revision, base, mine, turn: turn + 1, realAt: tx.realAt };
    writeDraftOf(tx.db, actor.personId, kept);
    return { turn: turn + 1 };
  });
}

/** Forgets one's own draft of a thing; none is none. */
export function dropDraft({ host }: DraftsDeps, actor: Actor, input: unknown): { id: string } {
  const asked = parse(dropSchema, input);
  const thingId = asked.id ?? '';
  host.transact((tx) => dropDraftOf(tx.db, actor.personId, asked.kind, thingId));
  return { id: thingId };
}

/** What people are changing and have not applied. */
export const createDrafts = (deps: DraftsDeps) =>
  bind(deps, { view: viewDrafts, own: viewOwnDrafts, keep: keepDraft, drop: dropDraft });
