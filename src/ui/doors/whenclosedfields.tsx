'use client';

import type { Channel } from '@/core/channels';
import type { WhenClosed } from '@/core/doors/doorway';
import type { DoorsView } from '@/services/doors/doors';
import { Field } from '../kit/field';
import { options, Select } from '../kit/select';

const WORDS: Readonly<Record<WhenClosed['does'], string>> = {
  end: 'ends, once its words are said',
  bot: 'has a bot answer',
  message: 'takes a message',
  callback: 'offers a call back',
  door: 'leads to another door',
};

/** What happens at a closed door after its words. */
export function WhenClosedFields({
  value,
  ownId,
  channel,
  view,
  disabled,
  fault,
  onChange,
}: {
  value: WhenClosed;
  ownId: string | null;
  channel: Channel;
  view: DoorsView;
  disabled: boolean;
  fault: string | undefined;
  onChange: (value: WhenClosed) => void;
}) {
  const others = view.doors.filter((d) => d.id !== ownId);
  const calling = view.queues.filter((q) => q.channels.includes('voice'));
  const taking = view.queues.filter((q) => q.channels.includes(channel));
  const kinds = (Object.keys(WORDS) as WhenClosed['does'][]).filter(
    (k) =>
      k === value.does ||
      (k === 'bot'
        ? view.bots.length > 0
        : k === 'door'
          ? others.length > 0
          : k === 'callback'
            ? calling.length > 0
            : k !== 'message' || taking.length > 0),
  );
  const made = (does: WhenClosed['does']): WhenClosed => {
    switch (does) {
      case 'end':
        return { does };
      case 'bot':
        return { does, botId: view.bots[0]?.id ?? '' };
      case 'message':
        return { does, queueId: taking[0]?.id ?? '' };
      case 'callback':
        return { does, queueId: calling[0]?.id ?? '' };
      case 'door':
        return { does, doorId: others[0]?.id ?? '' };
    }
  };
  return (
    <div className="flex flex-col gap-3">
      <Field label="When closed, it" fault={fault}>
        {(p) => (
          <Select
            {...p}
            disabled={disabled}
            value={value.does}
            onChange={(chosen) => onChange(made(chosen as WhenClosed['does']))}
          >
            {options(kinds, (k) => WORDS[k])}
          </Select>
        )}
      </Field>
      {value.does === 'bot' && (
        <Field label="Bot when closed">
          {(p) => (
            <Select {...p} disabled={disabled} value={value.botId} onChange={(botId) => onChange({ ...value, botId })}>
              {view.bots.map((b) => (
                <option key={b.id} value={b.id}>
                  {b.name}
                  {b.liveVersion === null ? ' (never published)' : ''}
                </option>
              ))}
            </Select>
          )}
        </Field>
      )}
      {(value.does === 'message' || value.does === 'callback') && (
        <Field label={value.does === 'message' ? 'Work for' : 'Called back by'}>
          {(p) => (
            <Select
              {...p}
              disabled={disabled}
              value={value.queueId}
              onChange={(queueId) => onChange({ ...value, queueId })}
            >
              {options(value.does === 'callback' ? calling : taking)}
            </Select>
          )}
        </Field>
      )}
      {value.does === 'door' && (
        <Field label="Other door">
          {(p) => (
            <Select
              {...p}
              disabled={disabled}
              value={value.doorId}
              onChange={(doorId) => onChange({ ...value, doorId })}
            >
              {options(others)}
            </Select>
          )}
        </Field>
      )}
    </div>
  );
}
