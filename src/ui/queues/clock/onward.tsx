'use client';

import type { Onward } from '@/core/routing/onward';
import type { QueuesView } from '@/services/queues/queuesview';
import { Field } from '../../kit/field';
import { options, Select } from '../../kit/select';
import { WordingField } from '../../kit/wording';

const WAYS: readonly { readonly to: Onward['to']; readonly name: string }[] = [
  { to: 'end', name: 'say something and end' },
  { to: 'message', name: 'take a message' },
  { to: 'callback', name: 'offer a callback' },
  { to: 'queue', name: 'another queue, keeping the wait' },
  { to: 'group', name: 'ask a group as well' },
  { to: 'partner', name: 'ring a partner desk as well' },
  { to: 'scene', name: 'back to a scene of a bot' },
];

/** Where a contact goes that is not to wait here any longer. */
export function OnwardFields({
  onward,
  view,
  disabled,
  onChange,
}: {
  onward: Onward;
  view: QueuesView;
  disabled: boolean;
  onChange: (onward: Onward) => void;
}) {
  const firstBot = view.bots[0];
  const begin = (to: string): Onward => {
    switch (to) {
      case 'end':
        return { to: 'end', wording: 'wording' in onward ? onward.wording : {} };
      case 'callback':
        return { to: 'callback' };
      case 'queue':
        return { to: 'queue', queueId: view.queues[0]?.id ?? '' };
      case 'group':
        return { to: 'group', groupId: view.groups[0]?.id ?? '' };
      case 'partner':
        return { to: 'partner', partnerId: view.partners[0]?.id ?? '' };
      case 'scene':
        return { to: 'scene', botId: firstBot?.id ?? '', sceneId: firstBot?.scenes[0]?.id ?? '' };
      default:
        return { to: 'message', wording: 'wording' in onward ? onward.wording : {} };
    }
  };
  const possible = WAYS.filter(
    (w) =>
      (w.to !== 'group' || view.groups.length > 0) &&
      (w.to !== 'partner' || view.partners.length > 0) &&
      (w.to !== 'scene' || view.bots.some((b) => b.scenes.length > 0)),
  );
  const pick = (
    label: string,
    value: string,
    targets: readonly { readonly id: string; readonly name: string }[],
    change: (id: string) => void,
  ) => (
    <div className="w-56">
      <Field label={label}>
        {(p) => (
          <Select {...p} disabled={disabled} value={value} onChange={(chosen) => change(chosen)}>
            {options(targets)}
          </Select>
        )}
      </Field>
    </div>
  );
  return (
    <div className="flex flex-wrap items-start gap-3">
      <div className="w-60">
        <Field label="What happens">
          {(p) => (
            <Select {...p} disabled={disabled} value={onward.to} onChange={(chosen) => onChange(begin(chosen))}>
              {possible.map((w) => (
                <option key={w.to} value={w.to}>
                  {w.name}
                </option>
              ))}
            </Select>
          )}
        </Field>
      </div>
      {onward.to === 'queue' &&
        pick('Queue', onward.queueId, view.queues, (queueId) => onChange({ to: 'queue', queueId }))}
      {onward.to === 'group' &&
        pick('Group', onward.groupId, view.groups, (groupId) => onChange({ to: 'group', groupId }))}
      {onward.to === 'partner' &&
        pick('Partner desk', onward.partnerId, view.partners, (partnerId) => onChange({ to: 'partner', partnerId }))}
      {onward.to === 'scene' &&
        pick(
          'Scene',
          `${onward.botId}|${onward.sceneId}`,
          view.bots.flatMap((b) => b.scenes.map((s) => ({ id: `${b.id}|${s.id}`, name: `${b.name}: ${s.name}` }))),
          (both) => {
            const [botId = '', sceneId = ''] = both.split('|');
            onChange({ to: 'scene', botId, sceneId });
          },
        )}
      {(onward.to === 'end' || onward.to === 'message') && (
        <div className="min-w-64 flex-1">
          <WordingField
            label="Says"
            wording={onward.wording}
            languages={view.languages}
            disabled={disabled}
            onChange={(wording) => onChange({ ...onward, wording })}
          />
        </div>
      )}
    </div>
  );
}
