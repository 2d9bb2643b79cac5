'use client';

import type { Target } from '@/core/bots/model';
import { options, Select } from '../../kit/select';
import { useAround } from './around';
import { CueSelect } from './cueselect';
import type { Of } from './editing';
import { NeedsEditor } from './needseditor';
import { PassedFields } from './passedfields';
import { Pick } from './pick';
import { Row, ValueInput, Whole } from './pieces';
import { WordingEditor } from './wordingeditor';

const TARGETS: Readonly<Record<Target['to'], string>> = {
  queue: 'a queue',
  'queue-value': 'the queue named by a value',
  group: 'a group',
  person: 'a person',
  partner: 'a partner desk',
};

export function HandOverEditor({ step, onChange }: Of<'hand-over'>) {
  const around = useAround();
  const { view } = around;
  const { target } = step;
  const { queueId } = target;
  const made = (to: Target['to']): Target =>
    to === 'queue'
      ? { to, queueId }
      : to === 'queue-value'
        ? { to, name: 'queue', queueId }
        : to === 'group'
          ? { to, groupId: view.groups[0]?.id ?? '', queueId }
          : to === 'partner'
            ? { to, partnerId: view.partners[0]?.id ?? '', queueId }
            : { to, person: { by: 'last' }, queueId, off: null };
  const set = (next: Target) => onChange({ ...step, target: next });
  return (
    <div className="flex flex-col gap-2.5">
      <Row label="To">
        <Select
          aria-label="Hands over to"
          className="!w-52 !py-1 text-small"
          value={target.to}
          onChange={(chosen) => set(made(chosen as Target['to']))}
        >
          {(Object.keys(TARGETS) as Target['to'][]).map((t) => (
            <option key={t} value={t}>
              {TARGETS[t]}
            </option>
          ))}
        </Select>
        {target.to === 'queue-value' && (
          <ValueInput
            label="Value with the queue’s name"
            name={target.name}
            onChange={(name) => set({ ...target, name })}
          />
        )}
        {target.to === 'group' && (
          <Pick
            label="Group"
            value={target.groupId}
            from={view.groups}
            onChange={(groupId) => set({ ...target, groupId })}
          />
        )}
        {target.to === 'partner' && (
          <Pick
            label="Partner desk"
            value={target.partnerId}
            from={view.partners}
            onChange={(partnerId) => set({ ...target, partnerId })}
          />
        )}
        {target.to === 'person' && (
          <Select
            aria-label="Person"
            className="!w-52 !py-1 text-small"
            value={target.person.by === 'id' ? target.person.personId : target.person.by}
            onChange={(chosen) =>
              set({
                ...target,
                person:
                  chosen === 'last'
                    ? { by: 'last' }
                    : chosen === 'value'
                      ? { by: 'value', name: 'person' }
                      : { by: 'id', personId: chosen },
              })
            }
          >
            <option value="last">who last dealt with them</option>
            <option value="value">named by a value</option>
            {options(view.people)}
          </Select>
        )}
        {target.to === 'person' && target.person.by === 'value' && (
          <ValueInput
            label="Value with the person’s name"
            name={target.person.name}
            onChange={(name) => set({ ...target, person: { by: 'value', name } })}
          />
        )}
      </Row>
      <Row
        label={
          target.to === 'queue' ? 'To the queue' : target.to === 'queue-value' ? 'If there is none' : 'Within the queue'
        }
      >
        <Pick
          label="To the queue"
          value={queueId}
          from={view.queues}
          onChange={(id) => set({ ...target, queueId: id })}
        />
        {target.to === 'person' && (
          <>
            {' '}
            off duty{' '}
            <CueSelect
              label="Off duty goes to"
              cue={target.off}
              none="asks the queue"
              onChange={(off) => set({ ...target, off })}
            />
          </>
        )}{' '}
        priority{' '}
        <Whole
          label="Priority"
          value={step.priority}
          least={0}
          most={9}
          onChange={(priority) => onChange({ ...step, priority })}
        />
      </Row>
      <Row label="Needs">
        <NeedsEditor label="Add a need" needs={step.needs} onChange={(needs) => onChange({ ...step, needs })} />
      </Row>
      <PassedFields fields={step.fields} onChange={(fields) => onChange({ ...step, fields })} />
      <WordingEditor label="Says first" wording={step.wording} onChange={(wording) => onChange({ ...step, wording })} />
    </div>
  );
}
