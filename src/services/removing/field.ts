import { allSteps } from '../../core/bots/model';
import { mayset, readBy } from '../../core/bots/graph';
import { stepsWithoutField } from '../../core/removing/without';
import { readBots, readVersion } from '../../data/bots';
import type { Db } from '../../data/database';
import { dropField, readFields } from '../../data/fields';
import { keepRetired } from '../../data/retired';
import { fieldValue } from '../bots/fields';
import { linesTouched, queuesTouched } from './referring';
import type { Removal, RemovalOf } from './removal';

/** What passes a field on or shows it, and what becomes of that when it goes. Lines that set or read it have to go first. */
export const fieldRemoval: RemovalOf = (_deps, db: Db, fieldId): Removal | null => {
  const field = readFields(db).find((f) => f.id === fieldId);
  if (!field) return null;
  const value = fieldValue(field);
  const setting = readBots(db).flatMap((b) => {
    const steps = allSteps(b.draft);
    const sets = steps.some((step) => mayset(step).includes(field.name));
    const reads = steps.some((step) => readBy(step).includes(field.name));
    const live = b.liveVersion === null ? undefined : readVersion(db, b.id, b.liveVersion);
    const said = live ? [...allSteps(live.script), ...live.pinned.shared.flatMap((scene) => scene.steps)] : [];
    return [
      ...(sets || reads ? [`${b.name} ${sets ? 'sets' : 'reads'} it: take that out first.`] : []),
      // What is private would not be kept apart any more.
      ...(said.some((step) => mayset(step).includes(field.name))
        ? [`${b.name} is live and sets it: publish it without first.`]
        : []),
    ];
  });
  return {
    name: field.label,
    stops: setting,
    touches: [
      ...linesTouched(db, (steps) => stepsWithoutField(steps, field.name), 'does not pass it on any more'),
      ...queuesTouched(
        db,
        (q) => (q.fields?.includes(fieldId) ? { ...q, fields: q.fields.filter((f) => f !== fieldId) } : q),
        'does not show it any more',
      ),
    ],
    insteads: [],
    needsInstead: false,
    value,
    drop: (tx) => dropField(tx.db, fieldId),
    retire: (tx) => {
      keepRetired(tx.db, 'field', fieldId, field.label, value, tx.realAt);
      dropField(tx.db, fieldId);
    },
  };
};
