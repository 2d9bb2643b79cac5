'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import { languageName } from '@/core/localised';
import { instantAt, localDate, localTime } from '@/core/hours/weekly';
import type { DoorLine } from '@/services/doors/doors';
import { Button } from '../kit/button';
import { DateField, TimeField } from '../kit/datefield';
import { Dialog } from '../kit/dialog';
import { doing } from '../kit/doing';
import { Field, Input } from '../kit/field';
import { asDayTime } from '../kit/figures';
import { Panel } from '../kit/panel';
import { openingWords } from './openingwords';

const HOUR = 3_600_000;

/** A door shut or opened by one press, until a time, with the reason that customers hear. */
export function ByHandPanel({ door, zone, now }: { door: DoorLine; zone: string; now: number }) {
  // What was seen at the press stays what is asked for, also when somebody else sets the door behind the dialog.
  const [choosing, setChoosing] = useState<DoorLine | null>(null);
  const { byHand, open } = door.opening;
  const hours = () =>
    void doing(
      'door-by-hand',
      { id: door.id, to: 'hours', until: null, reason: {}, seen: byHand?.at ?? null },
      `${door.name} follows its hours again.`,
    );
  const [reason] = byHand ? Object.values(byHand.reason).filter(Boolean) : [];
  return (
    <Panel className="flex flex-wrap items-center gap-2 self-stretch px-4 py-2.5" label={`${door.name} by hand`}>
      <span className={clsx('min-w-0', byHand ? 'basis-full' : 'flex-1')}>
        <h2 className="text-panel">{byHand ? (open ? 'Opened by hand' : 'Shut by hand') : open ? 'Open' : 'Closed'}</h2>
        <span className="block text-small text-ink-2">
          {byHand ? (
            <>
              until {asDayTime(byHand.until, zone)}
              {door.setBy && `, by ${door.setBy}`}
              {reason && `: “${reason}”`}
            </>
          ) : (
            openingWords(door.opening, zone)
          )}
        </span>
      </span>
      {byHand && (
        <Button small onClick={hours}>
          Follow its hours again
        </Button>
      )}
      <Button small kind={byHand ? 'quiet' : 'plain'} onClick={() => setChoosing(door)}>
        {byHand ? 'Change…' : open ? 'Shut for now…' : 'Open for now…'}
      </Button>
      {choosing && <ByHandDialog door={choosing} zone={zone} now={now} onClose={() => setChoosing(null)} />}
    </Panel>
  );
}

function ByHandDialog({
  door,
  zone,
  now,
  onClose,
}: {
  door: DoorLine;
  zone: string;
  now: number;
  onClose: () => void;
}) {
  const { byHand, open } = door.opening;
  const to = (byHand ? byHand.open : !open) ? 'open' : 'shut';
  const [until, setUntil] = useState(byHand?.until ?? now + HOUR);
  const [reason, setReason] = useState<Readonly<Record<string, string>>>(byHand?.reason ?? {});
  const [date, time] = [localDate(until, zone), localTime(until, zone).slice(11, 16)];
  const endOfDay = instantAt(zone, localDate(now + 24 * HOUR, zone), '00:00');
  const presets = [
    { name: '1 hour', at: now + HOUR },
    { name: '3 hours', at: now + 3 * HOUR },
    { name: 'the rest of the day', at: endOfDay },
  ];
  const submit = async () => {
    const said = `${door.name} is ${to} until ${asDayTime(until, zone)}; undone in History.`;
    if (await doing('door-by-hand', { id: door.id, to, until, reason, seen: byHand?.at ?? null }, said)) onClose();
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title={`${to === 'shut' ? 'Shut' : 'Open'} ${door.name} for now`}
      description={
        to === 'shut'
          ? 'From this moment on new contacts find it closed. What is going on goes on.'
          : 'From this moment on new contacts are let in.'
      }
    >
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        <fieldset>
          <legend className="mb-1 text-small font-medium text-ink-2">Until ({zone})</legend>
          <div className="flex flex-wrap items-center gap-2">
            <DateField
              aria-label="Until the day"
              className="!w-40"
              value={date}
              onChange={(day) => setUntil(instantAt(zone, day, time))}
            />
            <TimeField
              aria-label="Until the time"
              value={time}
              onChange={(at) => setUntil(instantAt(zone, date, at))}
            />
            <span className="flex basis-full gap-2">
              {presets.map((p) => (
                <Button key={p.name} small aria-pressed={until === p.at} onClick={() => setUntil(p.at)}>
                  {p.name}
                </Button>
              ))}
            </span>
          </div>
        </fieldset>
        {to === 'shut' &&
          door.languages.map((l) => (
            <Field
              key={l}
              label={`Reason, ${languageName(l)}`}
              hint={
                (door.closedWording[l] ?? '').includes('{reason}')
                  ? undefined
                  : 'not heard: its closing words have no {reason}'
              }
            >
              {(p) => (
                <Input
                  {...p}
                  maxLength={200}
                  value={reason[l] ?? ''}
                  placeholder="a line is down"
                  onChange={(e) => setReason({ ...reason, [l]: e.target.value })}
                />
              )}
            </Field>
          ))}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Leave it</Button>
          <Button kind="primary" type="submit" disabled={until <= now}>
            {to === 'shut' ? 'Shut it' : 'Open it'}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
