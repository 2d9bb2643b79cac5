import { array, boolean, object, string } from 'yup';
import { mayset, readBy } from '../../core/bots/graph';
import { allSteps, type BotScript, lineNumber, type Step } from '../../core/bots/model';
import { VALUE_NAME } from '../../core/bots/value';
import { LaneError } from '../../core/errors';
import { FIELD_TYPES } from '../../core/fieldvalue';
import { holds } from '../../core/people/rights';
import { readBots, SHARED_SCENES } from '../../data/bots';
import { DESK_PROFILES } from '../../data/duty';
import { dropField, type Field, type FieldRecord, FILLERS, readFields, writeField } from '../../data/fields';
import { readQueues } from '../../data/queuesettings';
import type { LiveFloor } from '../contacts/livefloor';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import { type Undoable, recordChange, sameRevision } from '../ground/change';
import type { Host } from '../ground/host';
import { exactly, oneOf, requiredText, whole } from '../ground/schemas';
import { parse } from '../ground/validate';

const schema = exactly(
  object({
    id: string().nullable().defined(),
    revision: whole(0, 1e9, 'The revision'),
    name: string()
      .matches(
        VALUE_NAME,
        'A field’s name begins with a letter or digit and has at most 60 letters, digits, spaces, _ and -',
      )
      .required('The name is missing'),
    label: requiredText(60, 'The label'),
    private: boolean().required(),
    reported: boolean().required(),
    type: oneOf(FIELD_TYPES, 'The type'),
    filledBy: array(oneOf(FILLERS, 'Who fills it')).min(1, 'Somebody must fill it').max(3).required(),
  }),
);

/** A place on the way of a field: a line of a bot, or a queue. */
export type FieldPlace = { readonly text: string; readonly path: string };
export type FieldLine = FieldRecord & {
  readonly set: readonly FieldPlace[];
  readonly read: readonly FieldPlace[];
  readonly passed: readonly FieldPlace[];
  readonly shown: readonly FieldPlace[];
  /** The link that is broken, in a sentence; null when there is none. */ readonly broken: string | null;
};
export type FieldsView = { readonly fields: readonly FieldLine[]; readonly mayChange: boolean };

export const fieldValue = ({ id, name, label, private: hidden, type, filledBy, reported }: Field): Field => ({
  id,
  name,
  label,
  private: hidden,
  type,
  filledBy,
  reported,
});

/** What the functions of this file are given first. */
export type FieldsDeps = { readonly host: Host; readonly floor: LiveFloor };

function trails({ host }: FieldsDeps): FieldLine[] {
  const { db } = host;
  const bots = readBots(db);
  const shared = SHARED_SCENES.all(db);
  const queues = readQueues(db);
  const shows =
    DESK_PROFILES.all(db).length === 0 ||
    DESK_PROFILES.all(db).some((d) => Object.values(d.panels).some((panels) => panels.includes('known')));
  return readFields(db).map((field) => {
    const where = (is: (step: Step) => boolean): FieldPlace[] => [
      ...bots.flatMap((b) => {
        const at = allSteps(b.draft).filter(is);
        return at[0]
          ? [
              {
                text: `${b.name} ${at.map((s) => lineNumber(b.draft, s.id)).join(', ')}`,
                path: `/bots/${b.id}?line=${at[0].id}`,
              },
            ]
          : [];
      }),
      ...shared.flatMap((s) => (s.steps.some(is) ? [{ text: s.name, path: '/bots/shared' }] : [])),
    ];
    const passes = (step: Step): step is Extract<Step, { verb: 'hand-over' }> =>
      step.verb === 'hand-over' && step.fields.includes(field.name);
    const set = [
      ...where((s) => mayset(s).includes(field.name)),
      ...(field.filledBy.includes('agent') ? [{ text: 'agents at the Desk', path: '/people/desks' }] : []),
    ];
    const passed = where(passes);
    const to = new Set(
      bots.flatMap((b: { draft: BotScript }) =>
        allSteps(b.draft)
          .filter(passes)
          .map((s) => s.target.queueId),
      ),
    );
    const shown = queues
      .filter((q) => (q.fields === null || q.fields.includes(field.id)) && shows && (to.size === 0 || to.has(q.id)))
      .map((q) => ({ text: q.name, path: `/queues?queue=${q.id}` }));
    const hidden = queues.filter((q) => to.has(q.id) && q.fields !== null && !q.fields.includes(field.id));
    // What is asked after the contact has nobody left to be passed to.
    const onlyAfter = bots.every((b) =>
      b.draft.scenes.every(
        (scene) => scene.id === b.draft.afterSceneId || !scene.steps.some((s) => mayset(s).includes(field.name)),
      ),
    );
    const broken =
      set.length === 0
        ? 'Nothing sets it.'
        : onlyAfter
          ? null
          : passed.length === 0 && !field.filledBy.includes('agent')
            ? 'It is set, but no hand-over passes it on.'
            : shown.length === 0
              ? 'It is passed on, but no Desk shows it.'
              : hidden[0]
                ? `It is passed to ${hidden[0].name}, whose Desk does not show it.`
                : null;
    return { ...field, set, read: where((s) => readBy(s).includes(field.name)), passed, shown, broken };
  });
}

export const undoableFields = ({ floor }: FieldsDeps): Readonly<Record<string, Undoable>> => ({
  field: {
    name: 'field',
    path: () => '/bots/fields',
    read: (db, fieldId) => {
      const there = readFields(db).find((f) => f.id === fieldId);
      return there ? fieldValue(there) : null;
    },
    restore: (tx, actor, fieldId, value) => {
      mustHoldEverywhere(actor, 'bots.change');
      if (value === null) dropField(tx.db, fieldId);
      else writeField(tx.db, value as Field, readFields(tx.db).length);
      floor.refreshSettings(tx);
    },
  },
});

export function viewFields(deps: FieldsDeps, actor: Actor): FieldsView {
  mustHold(actor, 'settings.view');
  return { fields: trails(deps), mayChange: holds(actor, 'bots.change') && actor.teams === 'all' };
}

export function saveField({ host, floor }: FieldsDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'bots.change');
  const { revision, ...asked } = parse(schema, input);
  return host.transact((tx) => {
    const all = readFields(tx.db);
    const before = all.find((f) => f.id === asked.id);
    if (asked.id !== null && !before) throw new LaneError('not-found', 'This field is not there any more.');
    sameRevision(before, revision, asked.label);
    if (all.some((f) => f.id !== asked.id && f.name.toLowerCase() === asked.name.toLowerCase()))
      throw new LaneError('not-valid', `There is already a field called ${asked.name}.`, [
        { where: 'name', what: 'is taken' },
      ]);
    // What was kept in the open must not pass for private: that takes a new field.
    if (before && asked.private !== before.private)
      throw new LaneError('not-valid', 'A field stays private or not. Make a new one.', [
        { where: 'private', what: 'cannot change' },
      ]);
    const after: Field = { ...asked, id: asked.id ?? tx.ids('field') };
    writeField(tx.db, after, before?.place ?? all.length);
    recordChange(tx, actor, 'field', after.id, before ? fieldValue(before) : null, after, { label: after.label });
    floor.refreshSettings(tx);
    return { id: after.id };
  });
}

/** Fields, and for each the trail from where it is set over where it is passed on to where it is shown. */
export const createFields = (deps: FieldsDeps) => ({
  undoable: undoableFields(deps),
  ...bind(deps, { view: viewFields, save: saveField }),
});
