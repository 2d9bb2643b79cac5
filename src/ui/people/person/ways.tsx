'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { PersonLine } from '@/services/people/peopleview';
import type { WayLine } from '@/services/people/reach';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Check, Input } from '../../kit/field';
import { useLive } from '../../kit/live';
import { Looking } from '../../kit/looking';
import { Pill } from '../../kit/panel';
import { Select } from '../../kit/select';

const KINDS = [
  ['outside', 'Outside telephone'],
  ['extension', 'Extension'],
  ['messaging', 'Messaging account'],
] as const;

/** Ways to reach a person beside the Desk: what each may be used for, and verification by a code sent to it. */
export function Ways({ person }: { person: PersonLine }) {
  const { data, error, refetch } = useLive<WayLine[]>(`/api/read/ways?id=${person.id}`, [
    'settings.changed',
    'person.reach',
  ]);
  const [adding, setAdding] = useState(false);
  const [kind, setKind] = useState('outside');
  const [address, setAddress] = useState('');
  const [codes, setCodes] = useState<Readonly<Record<string, string>>>({});
  const act = async (name: string, body: object, said: string) => {
    try {
      await setting(name, body);
      toast.success(said);
      await refetch();
      return true;
    } catch (error) {
      toast.error(sentence(error));
      return false;
    }
  };
  const save = (w: WayLine, change: Partial<WayLine>) =>
    void act(
      'save-way',
      {
        id: w.id,
        personId: person.id,
        kind: w.kind,
        address: w.address,
        mayCall: w.mayCall,
        maySendText: w.maySendText,
        mayReceiveText: w.mayReceiveText,
        ...change,
      },
      `${w.address} saved.`,
    );
  return (
    <>
      <p className="mb-1 text-small text-ink-2">
        The Desk in the browser is always there. Which way calls come today is chosen at the Desk.
      </p>
      {!data && <Looking error={error} onAgain={refetch} />}
      <ul className="divide-y divide-rule">
        {(data ?? []).map((w) => (
          <li key={w.id} className="py-2 text-small">
            <div className="flex items-center gap-2">
              <b className="min-w-0 flex-1 truncate">{w.address}</b>
              {person.voiceWayId === w.id && <Pill tone="plum">today</Pill>}
              <Pill tone={w.verified ? 'good' : 'warn'}>{w.verified ? 'verified' : 'not verified'}</Pill>
            </div>
            <p className="text-tiny text-ink-2">{KINDS.find(([k]) => k === w.kind)?.[1]}</p>
            <div className="mt-1 flex flex-wrap gap-x-3">
              <Check
                label="calls"
                disabled={!person.mayChange}
                checked={w.mayCall}
                onChange={(e) => save(w, { mayCall: e.target.checked })}
              />
              <Check
                label="sends text"
                disabled={!person.mayChange}
                checked={w.maySendText}
                onChange={(e) => save(w, { maySendText: e.target.checked })}
              />
              <Check
                label="receives text"
                disabled={!person.mayChange}
                checked={w.mayReceiveText}
                onChange={(e) => save(w, { mayReceiveText: e.target.checked })}
              />
            </div>
            {person.mayChange && (
              <div className="mt-1.5 flex flex-wrap items-center gap-1.5">
                {!w.verified && (
                  <Button
                    small
                    onClick={() => void act('send-code', { id: w.id }, `A code is on its way to ${w.address}.`)}
                  >
                    {w.codeSent ? 'Send a new code' : 'Send a code'}
                  </Button>
                )}
                {!w.verified && w.codeSent && (
                  <form
                    className="flex gap-1.5"
                    onSubmit={(e) => {
                      e.preventDefault();
                      void act('verify-way', { id: w.id, code: codes[w.id] ?? '' }, `${w.address} is verified.`);
                    }}
                  >
                    <Input
                      aria-label={`Code sent to ${w.address}`}
                      inputMode="numeric"
                      maxLength={6}
                      placeholder="six digits"
                      className="!w-24 !py-0.5"
                      value={codes[w.id] ?? ''}
                      onChange={(e) => setCodes({ ...codes, [w.id]: e.target.value })}
                    />
                    <Button small kind="primary" type="submit">
                      Verify
                    </Button>
                  </form>
                )}
                <Button
                  small
                  kind="quiet"
                  onClick={() => void act('remove-way', { id: w.id }, `${w.address} removed.`)}
                >
                  Remove
                </Button>
              </div>
            )}
          </li>
        ))}
      </ul>
      {data?.length === 0 && <p className="py-2 text-small text-ink-2">No other way yet.</p>}
      {person.mayChange &&
        (adding ? (
          <form
            className="mt-2 flex flex-col gap-1.5"
            onSubmit={(e) => {
              e.preventDefault();
              void act(
                'save-way',
                {
                  id: null,
                  personId: person.id,
                  kind,
                  address: address.trim(),
                  mayCall: kind !== 'messaging',
                  maySendText: kind !== 'extension',
                  mayReceiveText: kind !== 'extension',
                },
                'Way added.',
              ).then((ok) => {
                if (ok) {
                  setAdding(false);
                  setAddress('');
                }
              });
            }}
          >
            <Select aria-label="Kind of way" value={kind} onChange={(chosen) => setKind(chosen)}>
              {KINDS.map(([k, n]) => (
                <option key={k} value={k}>
                  {n}
                </option>
              ))}
            </Select>
            <Input
              aria-label="Address of the way"
              required
              placeholder={kind === 'outside' ? '+ country code …' : kind === 'extension' ? '214' : '@name'}
              value={address}
              onChange={(e) => setAddress(e.target.value)}
            />
            <div className="flex gap-2">
              <Button small kind="primary" type="submit">
                Add
              </Button>
              <Button small kind="quiet" onClick={() => setAdding(false)}>
                Cancel
              </Button>
            </div>
          </form>
        ) : (
          <Button small className="mt-2" onClick={() => setAdding(true)}>
            Add a way
          </Button>
        ))}
    </>
  );
}
